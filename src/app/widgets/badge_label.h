// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QWidget>

namespace rigmatch::app {

/// A camera's letter badge.
class BadgeLabel : public QWidget {
    Q_OBJECT
public:
    explicit BadgeLabel(QWidget* parent = nullptr);
    void setLetter(const QString& letter);
    [[nodiscard]] QSize sizeHint() const override { return {20, 20}; }

protected:
    void paintEvent(QPaintEvent* event) override;

private:
    QString m_letter;
};

}  // namespace rigmatch::app
