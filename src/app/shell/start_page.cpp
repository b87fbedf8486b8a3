// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/shell/start_page.h"

#include <QDragEnterEvent>
#include <QFileInfo>
#include <QHBoxLayout>
#include <QMimeData>
#include <QStyle>

#include "app/models/shot_list_model.h"
#include "app/widgets/build.h"
#include "app/widgets/theme.h"

namespace rigmatch::app {
namespace {

using namespace Qt::StringLiterals;

constexpr int kSideWidth = 300;
constexpr int kMostShown = 6;

}  // namespace

StartPage::StartPage(QWidget* parent) : QWidget(parent) {
    setObjectName(u"startPage"_s);
    setAcceptDrops(true);
    auto* columns = new QHBoxLayout(this);
    columns->setContentsMargins(16, 14, 16, 14);
    columns->setSpacing(18);
    auto* left = new QVBoxLayout;
    left->setSpacing(16);
    left->addWidget(buildDropArea(), 1);
    left->addWidget(buildSteps());
    columns->addLayout(left, 1);
    auto* right = new QVBoxLayout;
    right->setSpacing(12);
    right->addWidget(buildElsewhere());
    right->addWidget(buildRecent(), 1);
    columns->addLayout(right);
}

QWidget* StartPage::buildDropArea() {
    m_drop = new QFrame(this);
    m_drop->setObjectName(u"dropArea"_s);
    auto* layout = new QVBoxLayout(m_drop);
    layout->addStretch();
    QLabel* title =
        makeLabel(tr("Drop the clips of your test take"), nullptr, u"startTitle"_s, m_drop);
    title->setFont(theme::font(22, QFont::DemiBold));
    title->setAlignment(Qt::AlignCenter);
    layout->addWidget(title);
    QLabel* text = makeLabel(
        tr("One file or folder per camera; the cameras are made from them.\nNo chart in them? The "
           "faces do, less surely."),
        "dim",
        u"startText"_s,
        m_drop);
    text->setFont(theme::font(14));
    text->setAlignment(Qt::AlignCenter);
    layout->addSpacing(6);
    layout->addWidget(text);
    layout->addSpacing(16);
    m_choices = new QWidget(m_drop);
    auto* row = new QHBoxLayout(m_choices);
    row->addStretch();
    QPushButton* clips = makeButton(
        tr("&Choose clips…"), u"startClipsButton"_s, tr("Clips or stills, one per camera"), this);
    QPushButton* folder = makeButton(tr("Folder or c&ard…"),
                                     u"startFolderButton"_s,
                                     tr("A folder with a file, or a folder, per camera"),
                                     this);
    for (QPushButton* button : {clips, folder}) {
        button->setFont(theme::font(14));
        button->setMinimumHeight(38);
        button->setMinimumWidth(150);
        row->addWidget(button);
    }
    row->addStretch();
    layout->addWidget(m_choices);
    m_busy = makeLabel(tr("Looking at the files…"), nullptr, u"startBusyLabel"_s, m_drop);
    qobject_cast<QLabel*>(m_busy)->setAlignment(Qt::AlignCenter);
    m_busy->hide();
    layout->addWidget(m_busy);
    layout->addStretch();
    setFocusProxy(clips);
    connect(clips, &QPushButton::clicked, this, &StartPage::clipsWanted);
    connect(folder, &QPushButton::clicked, this, &StartPage::folderWanted);
    return m_drop;
}

QWidget* StartPage::buildSteps() {
    QFrame* card = makeCard(u"startSteps"_s, this);
    auto* row = new QHBoxLayout(card);
    row->setContentsMargins(22, 14, 22, 14);
    row->setSpacing(24);
    const auto add = [&](const QString& when, const QString& what, const QString& how) {
        auto* column = new QVBoxLayout;
        column->setSpacing(3);
        QLabel* first = makeLabel(when, nullptr, QString(), card);
        first->setStyleSheet(u"color: #d6d2b0;"_s);
        QLabel* heading = makeLabel(what, nullptr, QString(), card);
        heading->setFont(theme::font(14, QFont::DemiBold));
        QLabel* text = makeLabel(how, "dim", QString(), card);
        text->setWordWrap(true);
        column->addWidget(first);
        column->addWidget(heading);
        column->addWidget(text);
        column->addStretch();
        row->addLayout(column, 1);
    };
    add(tr("first"),
        tr("All cameras roll"),
        tr("Chart at the subject's place for five seconds, then the faces, then one clap."));
    add(tr("then"),
        tr("Drop the files here"),
        tr("Chart and faces are found by themselves; every difference is measured."));
    add(tr("and"),
        tr("Turn what the list says"),
        tr("In the steps of each camera's own controls; shoot once more to verify."));
    return card;
}

QWidget* StartPage::buildElsewhere() {
    QFrame* card = makeCard(u"startElsewhere"_s, this);
    card->setFixedWidth(kSideWidth);
    auto* column = new QVBoxLayout(card);
    column->setContentsMargins(16, 14, 16, 14);
    column->setSpacing(8);
    QLabel* heading = makeLabel(tr("Begin elsewhere"), nullptr, QString(), card);
    heading->setFont(theme::font(13, QFont::DemiBold));
    column->addWidget(heading);
    const auto add =
        [&](const QString& text, const QString& name, const QString& help, auto signal) {
            QPushButton* button = makeButton(text, name, help, card);
            button->setStyleSheet(u"text-align: left; padding: 6px 10px;"_s);
            connect(button, &QPushButton::clicked, this, signal);
            column->addWidget(button);
        };
    add(tr("&Plan the set first"),
        u"startPlanButton"_s,
        tr("Draw the room with people, cameras and lights"),
        &StartPage::planWanted);
    add(tr("Look at the &demo rig"),
        u"startDemoButton"_s,
        tr("Four cameras on a clock maker's bench"),
        &StartPage::demoWanted);
    add(tr("P&rint a card to hold up"),
        u"startCardButton"_s,
        tr("Grey and colour fields for a take without a chart, as PDF"),
        &StartPage::cardWanted);
    return card;
}

QWidget* StartPage::buildRecent() {
    QFrame* card = makeCard(u"startRecent"_s, this);
    card->setFixedWidth(kSideWidth);
    m_recent = new QVBoxLayout(card);
    m_recent->setContentsMargins(16, 14, 16, 14);
    m_recent->setSpacing(8);
    return card;
}

void StartPage::setRecent(const QStringList& files) {
    while (QLayoutItem* item = m_recent->takeAt(0)) {
        if (item->widget() != nullptr) item->widget()->deleteLater();
        delete item;
    }
    QLabel* heading = makeLabel(tr("Recent rigs"), nullptr, QString(), this);
    heading->setFont(theme::font(13, QFont::DemiBold));
    m_recent->addWidget(heading);
    if (files.isEmpty()) {
        QLabel* none =
            makeLabel(tr("Rigs that you save stand here."), "dim", u"startNoRecentLabel"_s, this);
        none->setWordWrap(true);
        m_recent->addWidget(none);
    }
    for (const QString& file : files.mid(0, kMostShown)) {
        const QFileInfo info(file);
        QPushButton* button = makeButton(QString(), u"startRecentButton"_s, file, this);
        const QFontMetrics metrics(font());
        const int room = kSideWidth - 60;
        button->setText(
            metrics.elidedText(info.completeBaseName(), Qt::ElideRight, room)
                .replace(u'&', u"&&"_s) +
            u'\n' + metrics.elidedText(info.path(), Qt::ElideMiddle, room).replace(u'&', u"&&"_s));
        button->setAccessibleName(tr("Open %1").arg(info.completeBaseName()));
        button->setStyleSheet(u"text-align: left; padding: 6px 10px;"_s);
        connect(button, &QPushButton::clicked, this, [this, file] { Q_EMIT rigWanted(file); });
        m_recent->addWidget(button);
    }
    m_recent->addStretch();
}

void StartPage::setBusy(bool isBusy) {
    m_choices->setVisible(!isBusy);
    m_busy->setVisible(isBusy);
}

void StartPage::markDrop(bool isOver) {
    m_drop->setProperty("over", isOver);
    m_drop->style()->unpolish(m_drop);
    m_drop->style()->polish(m_drop);
}

void StartPage::dragEnterEvent(QDragEnterEvent* event) {
    if (localFiles(*event->mimeData()).isEmpty()) return;
    event->acceptProposedAction();
    markDrop(true);
}

void StartPage::dragLeaveEvent(QDragLeaveEvent*) { markDrop(false); }

void StartPage::dropEvent(QDropEvent* event) {
    markDrop(false);
    event->acceptProposedAction();
    Q_EMIT filesDropped(localFiles(*event->mimeData()));
}

}  // namespace rigmatch::app
