// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/screens/cameras/cameras_screen.h"

#include <QMenu>
#include <QStackedWidget>
#include <QToolButton>
#include <algorithm>

#include "app/models/camera_sheet_model.h"
#include "app/models/settings_text.h"
#include "app/screens/cameras/cameras_controller.h"
#include "app/screens/cameras/choices_dialog.h"
#include "app/screens/cameras/controls_dialog.h"
#include "app/screens/cameras/sheet_view.h"
#include "app/services/texts.h"
#include "app/widgets/build.h"
#include "app/widgets/fact_list.h"
#include "plan/camera_sheet.h"

namespace rigmatch::app {
namespace {

using namespace Qt::StringLiterals;

constexpr int kReasonsWidth = 300;

QString refusalText(const base::Error& error) {
    return fromCore(error.what) + u". "_s + fromCore(error.detail) + u" "_s + fromCore(error.hint);
}

}  // namespace

CamerasScreen::CamerasScreen(AppContext& context, QWidget* parent)
    : QWidget(parent),
      m_context(context),
      m_controller(new CamerasController(context, this)),
      m_model(new CameraSheetModel(this)) {
    setObjectName(u"camerasScreen"_s);
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(16, 12, 16, 12);
    layout->setSpacing(10);
    buildHead(layout);
    layout->addWidget(buildOffer());
    buildTable();
    auto* content = new QWidget(this);
    auto* row = new QHBoxLayout(content);
    row->setContentsMargins(0, 0, 0, 0);
    row->setSpacing(12);
    auto* column = new QVBoxLayout;
    column->addWidget(m_table, 1);
    m_refusal = makeLabel(QString(), nullptr, u"sheetRefusalLabel"_s, content);
    m_refusal->setProperty("refusal", true);
    m_refusal->setWordWrap(true);
    m_refusal->hide();
    column->addWidget(m_refusal);
    row->addLayout(column, 1);
    row->addWidget(buildReasons());
    m_pages = new QStackedWidget(this);
    auto* empty = makeLabel(
        tr("No camera yet.\n\nAdd the camera that is on screen longest first: it becomes the "
           "reference.\nThen add the others and set each one's body, lens and settings as they "
           "are on the set."),
        "dim",
        u"camerasEmptyLabel"_s,
        this);
    empty->setAlignment(Qt::AlignCenter);
    m_pages->addWidget(content);
    m_pages->addWidget(empty);
    layout->addWidget(m_pages, 1);
    connect(m_controller, &CamerasController::changed, this, &CamerasScreen::refresh);
    connect(m_controller, &CamerasController::refused, this, [this](const base::Error& error) {
        m_refusal->setText(refusalText(error));
        m_refusal->show();
    });
    connect(m_model, &CameraSheetModel::edited, this, &CamerasScreen::edit);
    refresh();
}

void CamerasScreen::buildHead(QVBoxLayout* layout) {
    auto* head = new QHBoxLayout;
    head->setSpacing(8);
    head->addWidget(makeLabel(tr("Cameras"), "title", u"camerasTitle"_s, this));
    m_summary = makeLabel(QString(), "dim", u"camerasSummary"_s, this);
    m_summary->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Preferred);
    head->addSpacing(10);
    head->addWidget(m_summary, 1);
    auto* scopes = new QButtonGroup(this);
    const auto tab =
        [&](const QString& text, const QString& name, EditScope scope, const QString& help) {
            QPushButton* button = makeTab(text, name, help, scopes, this);
            connect(button, &QPushButton::clicked, this, [this, scope] {
                m_controller->setScope(scope);
            });
            head->addWidget(button);
            return button;
        };
    m_one = tab(tr("Edit &one"),
                u"editOneButton"_s,
                EditScope::OneCamera,
                tr("A change reaches the camera it is made at"));
    m_all = tab(tr("Edit a&ll"),
                u"editAllButton"_s,
                EditScope::AllCameras,
                tr("A change reaches all cameras; who lacks the value takes the nearest"));
    m_one->setChecked(true);
    const auto menuButton = [&](const QString& text, const QString& name, auto fill) {
        auto* menu = new QMenu(this);
        auto* button = new QToolButton(this);
        button->setText(text + u" ▾"_s);
        button->setObjectName(name);
        button->setAccessibleName(QString(text).remove(u'&'));
        button->setMenu(menu);
        button->setPopupMode(QToolButton::InstantPopup);
        button->setToolButtonStyle(Qt::ToolButtonTextOnly);
        button->setFocusPolicy(Qt::StrongFocus);
        connect(menu, &QMenu::aboutToShow, this, fill);
        head->addWidget(button);
        return menu;
    };
    m_copyMenu = menuButton(tr("&Copy from"), u"copyFromButton"_s, &CamerasScreen::fillCopyMenu);
    m_bodyMenu = menuButton(tr("&Body"), u"bodyButton"_s, &CamerasScreen::fillBodyMenu);
    m_cameraMenu = menuButton(tr("Ca&mera"), u"cameraMenuButton"_s, &CamerasScreen::fillCameraMenu);
    auto* choices = makeButton(tr("&Delivery…"),
                               u"choicesButton"_s,
                               tr("Frame rate, mains, day, cards, and both schools"),
                               this);
    connect(choices, &QPushButton::clicked, this, &CamerasScreen::openChoices);
    head->addWidget(choices);
    m_add = makeButton(tr("&Add camera"), u"addCameraButton"_s, tr("Up to sixteen cameras"), this);
    connect(m_add, &QPushButton::clicked, m_controller, &CamerasController::addCamera);
    head->addWidget(m_add);
    layout->addLayout(head);
}

QWidget* CamerasScreen::buildOffer() {
    QFrame* card = makeCard(u"offerCard"_s, this);
    m_offer = card;
    auto* row = new QHBoxLayout(card);
    row->setContentsMargins(12, 6, 8, 6);
    m_offerText = makeLabel(QString(), nullptr, u"offerLabel"_s, card);
    m_offerText->setWordWrap(true);
    row->addWidget(m_offerText, 1);
    auto* take = makeButton(tr("&Take over"),
                            u"takeOfferButton"_s,
                            tr("Writes what the file says into the sheet"),
                            card);
    auto* keep = makeButton(
        tr("&Keep the sheet"), u"declineOfferButton"_s, tr("The sheet stays as it is"), card);
    connect(take, &QPushButton::clicked, this, [this] { m_controller->takeOffer(m_offeredId); });
    connect(keep, &QPushButton::clicked, this, [this] { m_controller->declineOffer(m_offeredId); });
    row->addWidget(take);
    row->addWidget(keep);
    card->hide();
    return card;
}

void CamerasScreen::buildTable() {
    m_table = new QTableView(this);
    m_table->setObjectName(u"cameraSheet"_s);
    m_table->setAccessibleName(
        tr("Camera sheet: cameras across, settings down; F2 or Enter changes a value"));
    m_table->setModel(m_model);
    m_table->setItemDelegate(new SheetDelegate(m_table));
    auto* across = new SheetHeader(Qt::Horizontal, m_table);
    auto* down = new SheetHeader(Qt::Vertical, m_table);
    m_table->setHorizontalHeader(across);
    m_table->setVerticalHeader(down);
    across->setFixedHeight(44);
    across->setSectionResizeMode(QHeaderView::Stretch);
    across->setMinimumSectionSize(128);
    down->setSectionResizeMode(QHeaderView::Fixed);
    down->setDefaultSectionSize(25);
    down->setFixedWidth(152);
    m_table->setSelectionMode(QAbstractItemView::SingleSelection);
    m_table->setEditTriggers(QAbstractItemView::DoubleClicked | QAbstractItemView::SelectedClicked |
                             QAbstractItemView::EditKeyPressed | QAbstractItemView::AnyKeyPressed);
    m_table->setTabKeyNavigation(false);
    m_table->setCornerButtonEnabled(false);
    m_table->setShowGrid(true);
    connect(m_table->selectionModel(),
            &QItemSelectionModel::currentChanged,
            this,
            [this](const QModelIndex& now) {
                const auto& cameras = m_controller->rig().cameras;
                if (now.isValid() && now.column() < static_cast<int>(cameras.size())) {
                    m_controller->select(plain(cameras[static_cast<std::size_t>(now.column())].id));
                }
                m_refusal->hide();
                showReasons();
            });
}

QWidget* CamerasScreen::buildReasons() {
    QFrame* card = makeCard(u"reasonsCard"_s, this);
    card->setFixedWidth(kReasonsWidth);
    auto* layout = new QVBoxLayout(card);
    layout->setContentsMargins(1, 10, 1, 1);
    m_reasonsTitle = makeLabel(QString(), "heading", u"reasonsTitle"_s, card);
    m_reasonsTitle->setContentsMargins(11, 0, 0, 0);
    layout->addWidget(m_reasonsTitle);
    m_reasons = new FactList(
        u"reasonsList"_s, tr("What follows from the camera's settings, and why"), card);
    layout->addWidget(m_reasons, 1);
    return card;
}

void CamerasScreen::fillCopyMenu() {
    m_copyMenu->clear();
    const rig::Camera* current = m_controller->current();
    for (const rig::Camera& camera : m_controller->rig().cameras) {
        if (current != nullptr && camera.id == current->id) continue;
        const QString id = plain(camera.id);
        QAction* action = m_copyMenu->addAction(
            tr("Settings of %1, %2").arg(plain(camera.letter), plain(camera.role)),
            this,
            [this, id] { m_controller->copySettingsFrom(id); });
        action->setObjectName(u"copyFrom-"_s + id);
    }
}

void CamerasScreen::fillBodyMenu() {
    m_bodyMenu->clear();
    m_bodyMenu->addSection(tr("Generic"));
    for (const rig::BodyKind& kind : rig::bodyKinds()) {
        QAction* action = m_bodyMenu->addAction(
            fromCore(kind.name), this, [this, &kind] { m_controller->applyTemplate(kind); });
        action->setObjectName(u"body-"_s + plain(kind.name));
    }
    const auto own = rig::loadTemplates(m_controller->templateFolder().toStdString());
    if (!own.values.empty() || !own.failures.empty()) m_bodyMenu->addSection(tr("Your own"));
    for (const rig::BodyKind& kind : own.values) {
        QAction* action = m_bodyMenu->addAction(
            plain(kind.name), this, [this, kind] { m_controller->applyTemplate(kind); });
        action->setObjectName(u"ownBody-"_s + plain(kind.name));
    }
    for (const base::Error& failure : own.failures) {
        m_bodyMenu->addAction(fromCore(failure.what), this, [this, failure] {
            m_context.prompter.showError(this, failure);
        });
    }
    m_bodyMenu->addSeparator();
    QAction* save = m_bodyMenu->addAction(
        tr("&Keep this camera as a template…"), this, &CamerasScreen::askTemplateName);
    save->setObjectName(u"saveTemplateAction"_s);
    save->setEnabled(m_controller->current() != nullptr);
}

void CamerasScreen::fillCameraMenu() {
    m_cameraMenu->clear();
    const rig::Camera* camera = m_controller->current();
    const auto act = [&](const QString& text, const QString& name, bool isPossible, auto work) {
        QAction* action = m_cameraMenu->addAction(text, this, work);
        action->setObjectName(name);
        action->setEnabled(isPossible);
    };
    act(tr("Make &reference"),
        u"makeReferenceAction"_s,
        camera != nullptr && camera->id != m_controller->rig().referenceId,
        [this] { m_controller->makeReference(); });
    act(tr("&Values of its controls…"), u"controlsAction"_s, camera != nullptr, [this] {
        auto* dialog = new ControlsDialog(*m_controller, this);
        dialog->setAttribute(Qt::WA_DeleteOnClose);
        dialog->open();
    });
    act(tr("Move &left"), u"moveLeftAction"_s, m_controller->canMove(-1), [this] {
        m_controller->moveCurrent(-1);
    });
    act(tr("Move r&ight"), u"moveRightAction"_s, m_controller->canMove(1), [this] {
        m_controller->moveCurrent(1);
    });
    act(tr("R&emove"), u"removeCameraAction"_s, camera != nullptr, [this] {
        const QString goes = m_controller->goesWithCurrent();
        if (goes.isEmpty()) {
            m_controller->removeCurrent();
            return;
        }
        m_context.prompter.ask(window(),
                               tr("Remove camera %1?").arg(plain(m_controller->current()->letter)),
                               goes,
                               tr("&Remove"),
                               tr("&Keep it"),
                               QString(),
                               [this](Answer answer) {
                                   if (answer == Answer::Yes) m_controller->removeCurrent();
                               });
    });
}

void CamerasScreen::askTemplateName() {
    const rig::Camera* camera = m_controller->current();
    if (camera == nullptr) return;
    auto* dialog = new TemplateNameDialog(plain(camera->body), this);
    dialog->setAttribute(Qt::WA_DeleteOnClose);
    connect(dialog, &QDialog::accepted, this, [this, dialog] {
        const auto saved = m_controller->saveTemplate(dialog->name());
        if (!saved) m_context.prompter.showError(this, saved.error());
    });
    dialog->open();
}

void CamerasScreen::openChoices() {
    auto* dialog = new ChoicesDialog(*m_controller, this);
    dialog->setAttribute(Qt::WA_DeleteOnClose);
    dialog->open();
}

void CamerasScreen::edit(int row, int column, const QVariant& value) {
    const auto& cameras = m_controller->rig().cameras;
    if (column >= static_cast<int>(cameras.size())) return;
    m_refusal->hide();
    const SheetRow& changed = sheetRows()[static_cast<std::size_t>(row)];
    const bool isNumber =
        changed.takesTyping &&
        changed.value(cameras[static_cast<std::size_t>(column)]).typeId() == QMetaType::Double;
    if (isNumber && value.typeId() != QMetaType::Double) {
        m_refusal->setText(tr("Cannot set \"%1\". \"%2\" is no number. Type a number such as 1.25.")
                               .arg(changed.title, value.toString()));
        m_refusal->show();
        return;
    }
    m_controller->setValue(changed, plain(cameras[static_cast<std::size_t>(column)].id), value);
}

void CamerasScreen::refresh() {
    const rig::Rig& rig = m_controller->rig();
    m_model->setRig(rig);
    // Controls that few bodies have take no room where none has them.
    for (std::size_t row = 0; row < sheetRows().size(); ++row) {
        const SheetRow& one = sheetRows()[row];
        if (!one.isRare) continue;
        const bool isThere =
            std::any_of(rig.cameras.begin(), rig.cameras.end(), [&](const rig::Camera& camera) {
                return !one.choices(camera).isEmpty();
            });
        m_table->setRowHidden(static_cast<int>(row), !isThere);
    }
    m_pages->setCurrentIndex(rig.cameras.empty() ? 1 : 0);
    const rig::Camera* camera = m_controller->current();
    const QModelIndex now = m_table->currentIndex();
    for (std::size_t i = 0; camera != nullptr && i < rig.cameras.size(); ++i) {
        if (rig.cameras[i].id != camera->id || now.column() == static_cast<int>(i)) continue;
        const int row = now.isValid() ? now.row() : CameraSheetModel::rowOf(u"iso"_s);
        m_table->setCurrentIndex(m_model->index(row, static_cast<int>(i)));
    }
    const plan::DayNeeds day = plan::dayNeeds(rig);
    m_summary->setText(rig.cameras.empty() ? QString()
                                           : tr("a day: %1 GB on %2 cards, copies %3 min")
                                                 .arg(day.gigabytes, 0, 'f', 0)
                                                 .arg(day.cards)
                                                 .arg(day.copyMinutes, 0, 'f', 0));
    m_summary->setToolTip(tr("All cameras together; they draw %1 W").arg(day.watts, 0, 'f', 0));
    m_add->setEnabled(m_controller->canAdd());
    showReasons();
    showOffer();
}

void CamerasScreen::showReasons() {
    const rig::Camera* camera = m_controller->current();
    if (camera == nullptr) return;
    m_reasonsTitle->setText(
        tr("%1 %2: what follows").arg(plain(camera->letter), plain(camera->role).left(24)));
    const QModelIndex now = m_table->currentIndex();
    std::vector<words::ToldFact> facts = m_model->factsOf(now.column());
    // The chosen row's reason first.
    if (const words::ToldFact* chosen = m_model->factAt(now)) {
        const words::ToldFact first = *chosen;
        std::erase(facts, first);
        facts.insert(facts.begin(), first);
    }
    std::stable_sort(facts.begin() + (m_model->factAt(now) == nullptr ? 0 : 1),
                     facts.end(),
                     [](const words::ToldFact& a, const words::ToldFact& b) {
                         const auto weight = [](const words::ToldFact& f) {
                             return f.verdict == base::Verdict::Off       ? 0
                                    : f.verdict == base::Verdict::Near    ? 1
                                    : f.verdict == base::Verdict::Unknown ? 2
                                                                          : 3;
                         };
                         return weight(a) < weight(b);
                     });
    m_reasons->setFacts(facts);
}

void CamerasScreen::showOffer() {
    m_offeredId.clear();
    for (const rig::Camera& camera : m_controller->rig().cameras) {
        const auto offer = m_controller->offerFor(camera);
        if (!offer) continue;
        m_offeredId = plain(camera.id);
        m_offerText->setText(tr("The clip of camera %1 says %2, %3 K. The sheet says %4, %5 K.")
                                 .arg(plain(camera.letter), exposureText(*offer))
                                 .arg(offer->whiteBalanceKelvin, 0, 'f', 0)
                                 .arg(exposureText(camera.settings))
                                 .arg(camera.settings.whiteBalanceKelvin, 0, 'f', 0));
        break;
    }
    m_offer->setVisible(!m_offeredId.isEmpty());
}

}  // namespace rigmatch::app
