// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/services/sound_player.h"

#include <QAudioDevice>
#include <QAudioFormat>
#include <QAudioSink>
#include <QMediaDevices>

namespace rigmatch::app {
namespace {

constexpr qint64 kWaveHeader = 44;  // bytes before the samples

}  // namespace

SystemSoundPlayer::SystemSoundPlayer(QObject* parent) : SoundPlayer(parent) {}
SystemSoundPlayer::~SystemSoundPlayer() = default;

bool SystemSoundPlayer::canPlay() const { return !QMediaDevices::defaultAudioOutput().isNull(); }

void SystemSoundPlayer::play(const QString& file, int rate) {
    stop();
    m_file.setFileName(file);
    if (!m_file.open(QIODevice::ReadOnly) || !m_file.seek(kWaveHeader)) return;
    QAudioFormat format;
    format.setSampleRate(rate);
    format.setChannelCount(2);
    format.setSampleFormat(QAudioFormat::Int16);
    m_sink = std::make_unique<QAudioSink>(QMediaDevices::defaultAudioOutput(), format);
    connect(m_sink.get(), &QAudioSink::stateChanged, this, [this](QAudio::State state) {
        // The sink ends itself from within: it must not be deleted before it is done with that.
        if (state == QAudio::IdleState || state == QAudio::StoppedState)
            QMetaObject::invokeMethod(this, &SystemSoundPlayer::stop, Qt::QueuedConnection);
    });
    m_sink->start(&m_file);
    Q_EMIT changed();
}

void SystemSoundPlayer::stop() {
    if (!m_sink) return;
    m_sink->disconnect(this);
    m_sink->stop();
    m_sink.reset();
    m_file.close();
    Q_EMIT changed();
}

}  // namespace rigmatch::app
