// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/screens/test_take/arrivals_dialog.h"

#include <QComboBox>
#include <QDialogButtonBox>
#include <QDropEvent>
#include <QHBoxLayout>
#include <QHeaderView>
#include <QKeyEvent>
#include <QMimeData>
#include <QPainter>
#include <QRadioButton>
#include <QTreeWidget>

#include "app/services/texts.h"
#include "app/widgets/build.h"
#include "app/widgets/theme.h"

namespace rigmatch::app {

using namespace Qt::StringLiterals;

namespace {

constexpr int kPlaceRole = Qt::UserRole + 1;
constexpr int kFileRole = Qt::UserRole + 2;
constexpr int kRowHeight = 26;

QIcon badge(const QString& letter) {
    QPixmap picture(40, 40);
    picture.setDevicePixelRatio(2.0);
    picture.fill(Qt::transparent);
    QPainter painter(&picture);
    painter.setRenderHint(QPainter::Antialiasing);
    theme::paintBadge(painter, {0, 0, 20, 20}, letter);
    return picture;
}

}  // namespace

ArrivalsDialog::ArrivalsDialog(const rig::Rig& rig,
                               const rig::Take* shown,
                               const jobs::Arrivals& guess,
                               QWidget* parent)
    : QDialog(parent), m_guess(guess) {
    setObjectName(u"arrivalsDialog"_s);
    setWindowTitle(tr("Where do these files belong?"));
    makePlaces(rig, shown);
    auto* layout = new QVBoxLayout(this);
    layout->setSpacing(10);
    layout->addWidget(makeLabel(
        tr("Drag a file to its camera, or choose it and press the camera’s letter. Nothing is "
           "measured before."),
        "dim",
        {},
        this));
    layout->addWidget(buildTakeRow(rig, shown));
    buildTree();
    layout->addWidget(m_tree, 1);
    auto* row = new QHBoxLayout;
    auto* label = makeLabel(tr("&Belongs to"), "dim", {}, this);
    m_belongs = new QComboBox(this);
    m_belongs->setObjectName(u"belongsBox"_s);
    m_belongs->setAccessibleName(tr("Where the chosen file belongs"));
    label->setBuddy(m_belongs);
    for (const Place& place : m_places) m_belongs->addItem(place.title, place.id);
    connect(m_belongs, &QComboBox::activated, this, [this] {
        moveSelected(m_belongs->currentData().toString());
    });
    row->addWidget(label);
    row->addWidget(m_belongs, 1);
    layout->addLayout(row);
    m_note = makeLabel(QString(), nullptr, u"arrivalsNote"_s, this);
    m_note->setWordWrap(true);
    layout->addWidget(m_note);
    auto* buttons = new QDialogButtonBox(QDialogButtonBox::Cancel, this);
    m_accept = buttons->addButton(tr("&Take in"), QDialogButtonBox::AcceptRole);
    m_accept->setObjectName(u"takeInButton"_s);
    m_accept->setProperty("primary", true);
    m_accept->setDefault(true);
    connect(buttons, &QDialogButtonBox::accepted, this, &QDialog::accept);
    connect(buttons, &QDialogButtonBox::rejected, this, &QDialog::reject);
    layout->addWidget(buttons);
    fill();
    resize(720, 560);
}

void ArrivalsDialog::makePlaces(const rig::Rig& rig, const rig::Take* shown) {
    const auto heldAt = [&](const std::string& id) {
        const rig::Shot* shot = shown == nullptr ? nullptr : rig::findShot(*shown, id);
        return shot == nullptr ? QString() : plain(shot->media.filename().string());
    };
    for (const rig::Camera& camera : rig.cameras)
        m_places.push_back({plain(camera.id),
                            plain(camera.letter),
                            tr("%1  %2").arg(plain(camera.letter), plain(camera.role)),
                            heldAt(camera.id)});
    for (const rig::Source& source : rig.sources)
        m_places.push_back({plain(source.id), {}, plain(source.name), heldAt(source.id)});
    if (rig.cameras.size() < rig::kMostCameras)
        m_places.push_back(
            {QString::fromLatin1(jobs::Arrival::kNewCamera), {}, tr("A new camera each"), {}});
    if (rig.sources.size() < rig::kMostSources)
        m_places.push_back({QString::fromLatin1(jobs::Arrival::kNewRecorder),
                            {},
                            tr("A new sound recorder each"),
                            {}});
    m_places.push_back({QString(), {}, tr("Left out"), {}});
}

QWidget* ArrivalsDialog::buildTakeRow(const rig::Rig& rig, const rig::Take* shown) {
    auto* row = new QWidget(this);
    auto* layout = new QHBoxLayout(row);
    layout->setContentsMargins(0, 0, 0, 0);
    const int next = rig.takes.empty() ? 1 : rig.takes.back().number + 1;
    m_newTake = new QRadioButton(tr("As a &new take (take %1)").arg(next), row);
    m_newTake->setObjectName(u"newTakeChoice"_s);
    m_sameTake = new QRadioButton(
        shown == nullptr ? QString() : tr("&Into take %1").arg(shown->number), row);
    m_sameTake->setObjectName(u"sameTakeChoice"_s);
    m_sameTake->setVisible(shown != nullptr);
    const bool isNew = m_guess.isNewTake || shown == nullptr;
    (isNew ? m_newTake : m_sameTake)->setChecked(true);
    connect(m_newTake, &QRadioButton::toggled, this, &ArrivalsDialog::refresh);
    layout->addWidget(m_newTake);
    layout->addSpacing(18);
    layout->addWidget(m_sameTake);
    layout->addStretch();
    return row;
}

void ArrivalsDialog::buildTree() {
    m_tree = new QTreeWidget(this);
    m_tree->setObjectName(u"arrivalsTree"_s);
    m_tree->setAccessibleName(tr("Files by the camera that they are thought to belong to"));
    m_tree->setColumnCount(2);
    m_tree->setHeaderLabels({tr("Camera and file"), tr("Why")});
    m_tree->header()->setSectionResizeMode(0, QHeaderView::Stretch);
    m_tree->header()->setSectionResizeMode(1, QHeaderView::ResizeToContents);
    m_tree->setRootIsDecorated(false);
    m_tree->setItemsExpandable(false);
    m_tree->setSelectionMode(QAbstractItemView::ExtendedSelection);
    m_tree->setDragDropMode(QAbstractItemView::InternalMove);
    m_tree->setIconSize({20, 20});
    for (const Place& place : m_places) {
        auto* item = new QTreeWidgetItem(m_tree, {place.title, {}});
        item->setData(0, kPlaceRole, place.id);
        item->setFlags(Qt::ItemIsEnabled | Qt::ItemIsDropEnabled);
        if (!place.letter.isEmpty()) {
            item->setIcon(0, badge(place.letter));
            item->setText(0, place.title.mid(place.letter.size()).trimmed());
        }
        item->setSizeHint(0, {0, kRowHeight});
        item->setFont(0, theme::font(13, QFont::Medium));
        item->setExpanded(true);
    }
    // Files lie on cameras only, never between them.
    m_tree->invisibleRootItem()->setFlags(Qt::ItemIsEnabled);
    m_tree->viewport()->installEventFilter(this);
    m_tree->installEventFilter(this);
    connect(m_tree, &QTreeWidget::itemSelectionChanged, this, [this] {
        const auto chosen = m_tree->selectedItems();
        m_belongs->setEnabled(!chosen.isEmpty());
        if (chosen.isEmpty() || chosen.front()->parent() == nullptr) return;
        m_belongs->setCurrentIndex(
            m_belongs->findData(chosen.front()->parent()->data(0, kPlaceRole)));
    });
}

QTreeWidgetItem* ArrivalsDialog::itemOf(const QString& placeId) const {
    for (int i = 0; i < m_tree->topLevelItemCount(); ++i) {
        if (m_tree->topLevelItem(i)->data(0, kPlaceRole).toString() == placeId)
            return m_tree->topLevelItem(i);
    }
    return m_tree->topLevelItem(m_tree->topLevelItemCount() - 1);
}

void ArrivalsDialog::fill() {
    for (std::size_t i = 0; i < m_guess.files.size(); ++i) {
        const jobs::Arrival& arrival = m_guess.files[i];
        auto* item =
            new QTreeWidgetItem(itemOf(plain(arrival.place)),
                                {plain(arrival.what.file.filename().string()), whyText(arrival)});
        item->setData(0, kFileRole, static_cast<int>(i));
        item->setToolTip(0, plain(arrival.what.file.string()));
        const bool isInDoubt = item->text(1).startsWith(u'△');
        item->setForeground(1, isInDoubt ? theme::kNear : theme::kDim);
        item->setSizeHint(0, {0, kRowHeight});
        item->setFlags(Qt::ItemIsEnabled | Qt::ItemIsSelectable | Qt::ItemIsDragEnabled);
    }
    m_tree->expandAll();
    // The file that is least sure comes first to hand.
    for (int i = 0; i < m_tree->topLevelItemCount() && m_tree->selectedItems().isEmpty(); ++i) {
        if (m_tree->topLevelItem(i)->childCount() > 0)
            m_tree->setCurrentItem(m_tree->topLevelItem(i)->child(0));
    }
    refresh();
}

QString ArrivalsDialog::whyText(const jobs::Arrival& arrival) const {
    if (!arrival.sameAs.empty()) return tr("△ the same content as %1").arg(plain(arrival.sameAs));
    switch (arrival.reason) {
        case jobs::ArrivalReason::Chosen:
            return tr("the chosen camera");
        case jobs::ArrivalReason::Letter:
            return tr("the letter in its name");
        case jobs::ArrivalReason::Alike:
            return tr("like this camera’s clips before");
        case jobs::ArrivalReason::Order:
            return tr("△ only by order: look");
        case jobs::ArrivalReason::New:
            return tr("△ like no camera so far");
        case jobs::ArrivalReason::Sound:
            return tr("a recording of sound");
        case jobs::ArrivalReason::TooMany:
            return tr("△ the rig holds no more");
        case jobs::ArrivalReason::Unusable:
            return tr("△ cannot be read");
        case jobs::ArrivalReason::Older:
            return tr("its folder holds a newer one");
    }
    return {};
}

bool ArrivalsDialog::eventFilter(QObject* watched, QEvent* event) {
    const bool isDrag = event->type() == QEvent::DragEnter || event->type() == QEvent::DragMove;
    if (watched == m_tree->viewport() && isDrag) {
        // Rows of this list from wherever they are dragged; the view itself draws where they land.
        auto* drag = static_cast<QDragMoveEvent*>(event);
        if (drag->source() == m_tree) return false;
        const bool isRow = drag->mimeData()->hasFormat(m_tree->model()->mimeTypes().front());
        drag->setAccepted(isRow);
        return true;
    }
    if (watched == m_tree->viewport() && event->type() == QEvent::Drop) {
        auto* drop = static_cast<QDropEvent*>(event);
        QTreeWidgetItem* under = m_tree->itemAt(drop->position().toPoint());
        if (under != nullptr) {
            if (under->parent() != nullptr) under = under->parent();
            moveSelected(under->data(0, kPlaceRole).toString());
        }
        // The move is done here: the view must not take the row out once more.
        drop->setDropAction(Qt::CopyAction);
        drop->accept();
        return true;
    }
    if (watched == m_tree && event->type() == QEvent::KeyPress) {
        const auto* key = static_cast<QKeyEvent*>(event);
        if (key->key() == Qt::Key_Delete) {
            moveSelected(QString());
            return true;
        }
        const QString letter = key->text().toUpper();
        for (const Place& place : m_places) {
            if (letter.isEmpty() || place.letter != letter) continue;
            moveSelected(place.id);
            return true;
        }
    }
    return QDialog::eventFilter(watched, event);
}

void ArrivalsDialog::moveSelected(const QString& placeId) {
    QTreeWidgetItem* to = itemOf(placeId);
    const auto chosen = m_tree->selectedItems();
    for (QTreeWidgetItem* item : chosen) {
        if (item->parent() == nullptr || item->parent() == to) continue;
        item->parent()->removeChild(item);
        to->addChild(item);
        jobs::Arrival& arrival =
            m_guess.files[static_cast<std::size_t>(item->data(0, kFileRole).toInt())];
        arrival.place = to->data(0, kPlaceRole).toString().toStdString();
        arrival.reason = jobs::ArrivalReason::Chosen;
        item->setText(1, arrival.sameAs.empty() ? tr("by hand") : whyText(arrival));
        item->setForeground(1, arrival.sameAs.empty() ? theme::kDim : theme::kNear);
    }
    m_tree->expandAll();
    if (!chosen.isEmpty()) {
        m_tree->setCurrentItem(chosen.front());
        for (QTreeWidgetItem* item : chosen) item->setSelected(true);
    }
    refresh();
}

/// What the choice means for each camera, and in one line below.
void ArrivalsDialog::refresh() {
    if (m_note == nullptr) return;
    const bool isNew = m_newTake->isChecked();
    QStringList replaced;
    int taken = 0;
    for (const Place& place : m_places) {
        QTreeWidgetItem* item = itemOf(place.id);
        const int files = item->childCount();
        if (!place.id.isEmpty()) taken += files;
        const bool isOne = !place.id.isEmpty() && !place.id.startsWith(u'+');
        QString told;
        if (isOne && files > 1) told = tr("%1 parts of one recording").arg(files);
        if (isOne && files == 0) told = isNew ? tr("no file in this take") : place.held;
        if (isOne && files > 0 && !isNew && !place.held.isEmpty())
            replaced << tr("%1 (%2)").arg(item->text(0), place.held);
        item->setText(1, told);
        item->setForeground(1, theme::kFaint);
        item->setHidden(files == 0 && place.id == QLatin1String(jobs::Arrival::kNewRecorder));
    }
    m_note->setVisible(!replaced.isEmpty());
    m_note->setText(tr("Replaced in this take: %1.").arg(replaced.join(u", "_s)));
    m_accept->setEnabled(taken > 0);
}

jobs::Arrivals ArrivalsDialog::arrivals() const {
    jobs::Arrivals result = m_guess;
    result.isNewTake = m_newTake->isChecked();
    return result;
}

}  // namespace rigmatch::app
