// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/screens/compare/curve_row.h"

#include <QComboBox>
#include <QDialogButtonBox>
#include <QDoubleSpinBox>
#include <QFormLayout>
#include <QHBoxLayout>
#include <QMenu>
#include <QToolButton>
#include <QVBoxLayout>

#include "app/screens/compare/compare_controller.h"
#include "app/services/texts.h"
#include "app/widgets/build.h"
#include "jobs/curve_job.h"

namespace rigmatch::app {

using namespace Qt::StringLiterals;

CurveRow::CurveRow(CompareController& controller, QWidget* parent)
    : QWidget(parent), m_controller(controller) {
    setObjectName(u"curveRow"_s);
    auto* rows = new QVBoxLayout(this);
    rows->setContentsMargins(0, 0, 0, 0);
    rows->setSpacing(4);
    auto* layout = new QHBoxLayout;
    layout->setSpacing(8);
    auto* label = makeLabel(tr("Declared c&urve of"), "dim", QString(), this);
    m_camera = new QComboBox(this);
    m_camera->setObjectName(u"curveCameraBox"_s);
    m_camera->setAccessibleName(tr("Camera whose curve is declared"));
    label->setBuddy(m_camera);
    m_declare = new QToolButton(this);
    m_declare->setObjectName(u"declareCurveButton"_s);
    m_declare->setAccessibleName(tr("Declare a curve"));
    m_declare->setToolTip(
        tr("Say which curve this camera's profile follows: stops of the scene, linear judging and "
           "glare are then told by it"));
    m_declare->setPopupMode(QToolButton::InstantPopup);
    m_declare->setFocusPolicy(Qt::StrongFocus);
    m_declare->setMenu(new QMenu(m_declare));
    auto* primariesLabel = makeLabel(tr("pri&maries"), "dim", QString(), this);
    m_primaries = new QComboBox(this);
    m_primaries->setObjectName(u"profilePrimariesBox"_s);
    m_primaries->setAccessibleName(tr("Primaries of this camera's profile"));
    m_primaries->setToolTip(
        tr("Colours of red, green and blue that this profile records in. Log profiles often have "
           "their own; those that the colour library publishes stand below the standards'"));
    m_primaries->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
    m_primaries->setMinimumContentsLength(12);
    m_primaries->addItem(tr("as the file says"), QString());
    for (const jobs::PrimariesChoice& choice : jobs::primariesChoices())
        m_primaries->addItem(fromCore(choice.title), fromCore(choice.name));
    primariesLabel->setBuddy(m_primaries);
    m_words = makeLabel(QString(), "dim", u"declaredWords"_s, this);
    m_words->setWordWrap(true);
    layout->addWidget(label);
    layout->addWidget(m_camera);
    layout->addWidget(m_declare);
    layout->addWidget(primariesLabel);
    layout->addWidget(m_primaries);
    layout->addStretch();
    rows->addLayout(layout);
    rows->addWidget(m_words);
    buildMenu();
    connect(m_camera, &QComboBox::activated, this, &CurveRow::refresh);
    connect(m_primaries, &QComboBox::activated, this, [this](int index) {
        m_controller.declarePrimaries(cameraId(), m_primaries->itemData(index).toString());
    });
}

void CurveRow::buildMenu() {
    QMenu* menu = m_declare->menu();
    const auto declare = [this](const std::optional<colour::TransferCurve>& curve) {
        m_controller.declareCurve(cameraId(), curve);
    };
    QAction* none = menu->addAction(tr("None"));
    none->setObjectName(u"curveNone"_s);
    connect(none, &QAction::triggered, this, [declare] { declare(std::nullopt); });
    menu->addSeparator();
    for (const colour::CurveKind kind : {colour::CurveKind::Bt709,
                                         colour::CurveKind::Srgb,
                                         colour::CurveKind::Bt1886,
                                         colour::CurveKind::Hlg,
                                         colour::CurveKind::Linear}) {
        const colour::TransferCurve curve = colour::curveOf(kind);
        QAction* action = menu->addAction(fromCore(colour::curveName(curve)));
        action->setObjectName(u"curve "_s + fromCore(colour::curveName(curve)));
        connect(action, &QAction::triggered, this, [declare, curve] { declare(curve); });
    }
    menu->addSeparator();
    QAction* log = menu->addAction(tr("Logarithmic, by its numbers…"));
    log->setObjectName(u"curveLog"_s);
    connect(log, &QAction::triggered, this, [this, declare] {
        const auto now = m_controller.declaredCurve(cameraId());
        const bool isLog = now && now->kind == colour::CurveKind::Log;
        auto* dialog = new LogCurveDialog(isLog ? now->log : colour::LogParameters{}, this);
        dialog->setAttribute(Qt::WA_DeleteOnClose);
        connect(dialog, &QDialog::accepted, this, [dialog, declare] {
            colour::TransferCurve curve = colour::curveOf(colour::CurveKind::Log);
            curve.log = dialog->parameters();
            declare(curve);
        });
        dialog->open();
    });
    QAction* table = menu->addAction(tr("From a table (.cube, CLF)…"));
    table->setObjectName(u"curveTable"_s);
    connect(table, &QAction::triggered, this, [this] {
        m_controller.declareFromTable(cameraId(), this);
    });
    QAction* takes = menu->addAction(tr("Measured from this camera's takes"));
    takes->setObjectName(u"curveTakes"_s);
    takes->setToolTip(tr("The chart in the same light, with the exposure changed by known steps"));
    connect(takes, &QAction::triggered, this, [this] {
        m_controller.declareFromTakes(cameraId(), this);
    });
}

QString CurveRow::cameraId() const { return m_camera->currentData().toString(); }

void CurveRow::refresh() {
    const QString chosen = cameraId();
    m_camera->clear();
    for (const ComparedCamera& camera : m_controller.cameras()) {
        if (camera.reading != nullptr) m_camera->addItem(camera.letter, camera.cameraId);
    }
    m_camera->setCurrentIndex(std::max(0, m_camera->findData(chosen)));
    setEnabled(m_camera->count() > 0);
    const auto curve = m_controller.declaredCurve(cameraId());
    m_declare->setText((curve ? fromCore(colour::curveName(*curve)) : tr("none")) + u" ▾"_s);
    m_primaries->setCurrentIndex(
        std::max(0, m_primaries->findData(m_controller.declaredPrimaries(cameraId()))));
    m_words->setText(m_controller.curveWords(cameraId()));
}

LogCurveDialog::LogCurveDialog(const colour::LogParameters& start, QWidget* parent)
    : QDialog(parent) {
    setWindowTitle(tr("Logarithmic curve"));
    setObjectName(u"logCurveDialog"_s);
    auto* form = new QFormLayout(this);
    auto* note = makeLabel(
        tr("Signal = (log2 of light + offset) / span above the cut, straight below it. Light: 0.18 "
           "is mid-grey. The numbers stand in the curve's publication."),
        "dim",
        QString(),
        this);
    note->setWordWrap(true);
    form->addRow(note);
    const auto spin = [&](const char* name,
                          const QString& title,
                          double least,
                          double most,
                          int decimals,
                          double value) {
        auto* box = new QDoubleSpinBox(this);
        box->setObjectName(QString::fromLatin1(name));
        box->setAccessibleName(title);
        box->setRange(least, most);
        box->setDecimals(decimals);
        box->setValue(value);
        form->addRow(title, box);
        return box;
    };
    m_span = spin("logSpanSpin", tr("Span, stops"), 2.0, 40.0, 3, start.spanStops);
    m_offset = spin("logOffsetSpin", tr("Offset, stops"), 0.0, 40.0, 3, start.offset);
    m_cut = spin("logCutSpin", tr("Cut, light"), 0.00001, 0.1, 6, start.cut);
    auto* buttons = new QDialogButtonBox(QDialogButtonBox::Ok | QDialogButtonBox::Cancel, this);
    buttons->button(QDialogButtonBox::Ok)->setText(tr("Declare"));
    buttons->button(QDialogButtonBox::Ok)->setObjectName(u"declareLogButton"_s);
    form->addRow(buttons);
    connect(buttons, &QDialogButtonBox::accepted, this, &QDialog::accept);
    connect(buttons, &QDialogButtonBox::rejected, this, &QDialog::reject);
}

colour::LogParameters LogCurveDialog::parameters() const {
    return {m_span->value(), m_offset->value(), m_cut->value()};
}

}  // namespace rigmatch::app
