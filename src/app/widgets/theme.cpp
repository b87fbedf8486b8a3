// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/widgets/theme.h"

#include <QApplication>
#include <QFontDatabase>
#include <QPainter>
#include <QPalette>
#include <QStyleFactory>
#include <array>

namespace rigmatch::app::theme {
namespace {

using namespace Qt::StringLiterals;

QPalette palette() {
    QPalette p;
    p.setColor(QPalette::Window, kWindow);
    p.setColor(QPalette::WindowText, kText);
    p.setColor(QPalette::Base, kPanel);
    p.setColor(QPalette::AlternateBase, kPanel);
    p.setColor(QPalette::Text, kText);
    p.setColor(QPalette::Button, kField);
    p.setColor(QPalette::ButtonText, kText);
    p.setColor(QPalette::ToolTipBase, kField);
    p.setColor(QPalette::ToolTipText, kText);
    p.setColor(QPalette::PlaceholderText, kDim);
    p.setColor(QPalette::Highlight, QColor(86, 86, 86));
    p.setColor(QPalette::HighlightedText, kText);
    p.setColor(QPalette::Link, kText);
    for (const auto role : {QPalette::WindowText, QPalette::Text, QPalette::ButtonText}) {
        p.setColor(QPalette::Disabled, role, kFaint);
    }
    return p;
}

QString styleSheet() {
    return uR"(
QToolTip { background: #3a3a3a; color: #e8e8e8; border: 1px solid #585858; padding: 4px; }
QMenuBar { background: #222222; } QMenuBar::item { padding: 4px 10px; background: transparent; }
QMenuBar::item:selected { background: #404040; }
QMenu { background: #303030; border: 1px solid #505050; } QMenu::item { padding: 5px 24px; }
QMenu::item:selected { background: #4a4a4a; } QMenu::item:disabled { color: #787878; }
QFrame#topBar, QFrame#rail, QFrame#bottomBar { background: #222222; }
QFrame#dropArea { border: 2px dashed #5a5a5a; border-radius: 8px; background: #2d2d2d; }
QFrame#dropArea[over="true"] { border-color: #d6d2b0; background: #343434; }
QFrame[card="true"] { background: #303030; border: 1px solid #424242; border-radius: 4px; }
QLabel { background: transparent; }
QLabel[dim="true"] { color: #a5a5a5; }
QLabel[title="true"] { font-size: 16px; font-weight: 600; }
QLabel[heading="true"] { font-size: 13px; font-weight: 600; }
QLabel[big="true"] { font-size: 24px; font-weight: 600; }
QPushButton, QToolButton, QComboBox { background: #3a3a3a; border: 1px solid #505050; border-radius: 4px; padding: 5px 10px; }
QPushButton:hover, QToolButton:hover, QComboBox:hover { background: #444444; }
QPushButton:pressed, QToolButton:pressed { background: #333333; }
QPushButton:disabled, QToolButton:disabled, QComboBox:disabled { color: #787878; border-color: #404040; }
QPushButton:focus, QToolButton:focus, QComboBox:focus, QLineEdit:focus, QSpinBox:focus, QCheckBox:focus,
QTableView:focus, QListView:focus { border: 1px solid #d6d2b0; }
QPushButton[tab="true"] { background: transparent; border: 1px solid transparent; color: #a5a5a5; }
QPushButton[tab="true"]:checked { background: #3a3a3a; border: 1px solid #505050; color: #e8e8e8; }
QPushButton[tab="true"]:focus { border: 1px solid #d6d2b0; }
QToolButton::menu-indicator { image: none; width: 0; }
QLabel[refusal="true"] { color: #ec7a62; }
QLineEdit[refused="true"] { border: 1px solid #ec7a62; }
QTabWidget::pane { border: 1px solid #424242; } QTabBar::tab { background: #2a2a2a; padding: 6px 12px; color: #a5a5a5; border: 1px solid transparent; }
QTabBar::tab:selected { background: #3a3a3a; color: #e8e8e8; } QTabBar::tab:focus { border: 1px solid #d6d2b0; }
QPushButton[primary="true"] { background: #5a5a5a; border-color: #767676; font-weight: 600; }
QToolButton[railEntry="true"] { background: transparent; border: none; border-left: 3px solid transparent;
  border-radius: 0; text-align: left; padding: 9px 12px; }
QToolButton[railEntry="true"]:hover { background: #2e2e2e; }
QToolButton[railEntry="true"]:checked { background: #3a3a3a; border-left: 3px solid #d6d2b0; }
QToolButton[railEntry="true"]:focus { background: #333333; border: 1px solid #d6d2b0; }
QComboBox::drop-down { border: none; width: 20px; }
QComboBox::down-arrow { image: url(:/icons/arrow.png); width: 10px; height: 6px; }
QCheckBox::indicator { width: 14px; height: 14px; border: 1px solid #8c8c8c; border-radius: 3px; background: #262626; }
QCheckBox::indicator:checked { background: #5a5a5a; image: url(:/icons/check.png); }
QCheckBox::indicator:disabled { border-color: #505050; }
QComboBox QAbstractItemView { background: #303030; border: 1px solid #505050; selection-background-color: #4a4a4a; }
QLineEdit, QSpinBox { background: #262626; border: 1px solid #505050; border-radius: 4px; padding: 5px 8px; }
QTableView, QListView, QScrollArea { background: #303030; border: 1px solid #424242; gridline-color: #3c3c3c; }
QTableView::item:selected, QListView::item:selected { background: #454545; color: #e8e8e8; }
QHeaderView { background: #303030; } QHeaderView::section { background: #303030; color: #a5a5a5; border: none;
  border-bottom: 1px solid #424242; padding: 4px 8px; }
QTableCornerButton::section { background: #303030; border: none; }
QCheckBox { spacing: 8px; border: 1px solid transparent; padding: 2px; }
QProgressBar { background: #2a2a2a; border: 1px solid #505050; border-radius: 3px; text-align: center; }
QProgressBar::chunk { background: #7a7a7a; }
QScrollBar:vertical { background: #2a2a2a; width: 10px; } QScrollBar::handle:vertical { background: #555555; border-radius: 4px; min-height: 24px; }
QScrollBar:horizontal { background: #2a2a2a; height: 10px; } QScrollBar::handle:horizontal { background: #555555; border-radius: 4px; min-width: 24px; }
QScrollBar::add-line, QScrollBar::sub-line { width: 0; height: 0; }
QSplitter::handle { background: #262626; }
)"_s;
}

}  // namespace

QColor cameraColour(const QString& letter) {
    static const std::array<QColor, 8> kColours{QColor(232, 232, 232),
                                                QColor(138, 180, 224),
                                                QColor(224, 163, 104),
                                                QColor(180, 159, 216),
                                                QColor(127, 196, 180),
                                                QColor(217, 147, 176),
                                                QColor(183, 196, 108),
                                                QColor(194, 165, 138)};
    const ushort code = letter.isEmpty() ? u'A' : letter.at(0).unicode();
    return kColours.at(static_cast<std::size_t>(code - u'A') % kColours.size());
}

void apply(QApplication& application) {
    QString family;
    for (const QString& file : {u":/fonts/regular.otf"_s,
                                u":/fonts/rig-match-sans-medium.otf"_s,
                                u":/fonts/rig-match-sans-semibold.otf"_s}) {
        const int id = QFontDatabase::addApplicationFont(file);
        if (id >= 0 && family.isEmpty())
            family = QFontDatabase::applicationFontFamilies(id).value(0);
    }
    if (!family.isEmpty()) {
        QFont font(family);
        font.setPixelSize(13);
        application.setFont(font);
    }
    application.setStyle(QStyleFactory::create(u"Fusion"_s));
    application.setPalette(palette());
    application.setStyleSheet(styleSheet());
}

QFont font(int pixels, int weight) {
    QFont font = QApplication::font();
    font.setPixelSize(pixels);
    font.setWeight(static_cast<QFont::Weight>(weight));
    return font;
}

void paintBadge(QPainter& painter, const QRectF& rect, const QString& letter) {
    painter.save();
    painter.setRenderHint(QPainter::Antialiasing);
    painter.setPen(Qt::NoPen);
    painter.setBrush(cameraColour(letter));
    painter.drawRoundedRect(rect, 3, 3);
    painter.setFont(font(static_cast<int>(rect.height() * 0.62), QFont::DemiBold));
    painter.setPen(QColor(28, 28, 28));
    painter.drawText(rect, Qt::AlignCenter, letter);
    painter.restore();
}

}  // namespace rigmatch::app::theme
