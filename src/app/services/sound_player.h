// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QFile>
#include <QObject>
#include <memory>

class QAudioSink;

namespace rigmatch::app {

/// Plays a sound through the system's output. Replaced in tests.
class SoundPlayer : public QObject {
    Q_OBJECT
public:
    using QObject::QObject;
    /// False where the system has no output.
    [[nodiscard]] virtual bool canPlay() const = 0;
    [[nodiscard]] virtual bool isPlaying() const = 0;
    /// A .wav of two channels of 16 bit; stops what played before.
    virtual void play(const QString& file, int rate) = 0;
    virtual void stop() = 0;

Q_SIGNALS:
    /// It began, ended, or was stopped.
    void changed();
};

/// The output that the system is set to.
class SystemSoundPlayer : public SoundPlayer {
    Q_OBJECT
public:
    explicit SystemSoundPlayer(QObject* parent = nullptr);
    ~SystemSoundPlayer() override;
    [[nodiscard]] bool canPlay() const override;
    [[nodiscard]] bool isPlaying() const override { return m_sink != nullptr; }
    void play(const QString& file, int rate) override;
    void stop() override;

private:
    std::unique_ptr<QAudioSink> m_sink;
    QFile m_file;
};

}  // namespace rigmatch::app
