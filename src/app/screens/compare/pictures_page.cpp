// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/screens/compare/pictures_page.h"

#include <QButtonGroup>
#include <QCheckBox>
#include <QComboBox>
#include <QHBoxLayout>
#include <algorithm>
#include <cmath>

#include "app/screens/compare/compare_controller.h"
#include "app/screens/compare/compare_numbers.h"
#include "app/services/texts.h"
#include "app/widgets/build.h"
#include "app/widgets/theme.h"
#include "base/format.h"

namespace rigmatch::app {

using namespace Qt::StringLiterals;

namespace {

/// What one camera reads stays on one line.
QString together(QString text) { return text.replace(u' ', QChar::Nbsp); }

/// Numbers have one decimal here: smaller errors show as its last digit.
double shownError(double percent) { return std::max(percent, 0.1); }

}  // namespace

PicturesPage::PicturesPage(CompareController& controller, QWidget* parent)
    : ComparePage(controller, parent), m_modes(new QButtonGroup(this)) {
    setObjectName(u"picturesPage"_s);
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(0, 0, 0, 0);
    layout->setSpacing(8);
    auto* bar = new QHBoxLayout;
    const auto tab = [&](const QString& text, const char* name, const QString& help, int mode) {
        QPushButton* button = makeTab(text, QString::fromLatin1(name), help, m_modes, this);
        m_modes->setId(button, mode);
        bar->addWidget(button);
        return button;
    };
    tab(tr("Side by side"), "sideBySideTab", tr("Every camera in a picture of its own"), 0)
        ->setChecked(true);
    tab(tr("Slices"), "slicesTab", tr("Strips of the cameras by turns in one picture"), 1);
    tab(tr("Wipe"),
        "wipeTab",
        tr("Reference on the left, the other on the right; drag the line, or Ctrl and arrow keys"),
        2);
    tab(tr("Difference"), "differenceTab", tr("What is not equal shows; equal is black"), 3);
    m_againstLabel = makeLabel(tr("&against"), "dim", QString(), this);
    m_against = new QComboBox(this);
    m_against->setObjectName(u"againstBox"_s);
    m_against->setAccessibleName(tr("Camera set against the reference"));
    m_againstLabel->setBuddy(m_against);
    bar->addSpacing(10);
    bar->addWidget(m_againstLabel);
    bar->addWidget(m_against);
    bar->addStretch();
    m_loupe = new QCheckBox(tr("&Loupe"), this);
    m_loupe->setObjectName(u"loupeBox"_s);
    m_loupe->setToolTip(tr("Show the surroundings of the mark eight times as large"));
    m_loupe->setChecked(true);
    bar->addWidget(m_loupe);
    layout->addLayout(bar);
    m_view = new StripView(this);
    m_view->setObjectName(u"stripView"_s);
    m_view->setLoupe(true);
    m_view->setMark(std::nullopt);
    m_view->setToolTip(
        tr("Click or arrow keys: read this place on all cameras.\nWheel, + and −: zoom; drag: "
           "move; 0: all.\nShift and drag: mark a region for the scopes."));
    layout->addWidget(m_view, 1);
    m_values = makeLabel(QString(), nullptr, u"markValues"_s, this);
    m_values->setTextFormat(Qt::RichText);
    m_values->setWordWrap(true);
    m_values->setMinimumHeight(40);
    layout->addWidget(m_values);
    connect(m_modes, &QButtonGroup::idClicked, this, &PicturesPage::chooseMode);
    connect(m_against, &QComboBox::activated, this, &PicturesPage::choosePair);
    connect(m_loupe, &QCheckBox::toggled, m_view, &StripView::setLoupe);
    connect(m_view, &StripView::picked, &controller, &CompareController::setMark);
    connect(m_view, &StripView::regionDrawn, &controller, &CompareController::setRegion);
    connect(&controller, &CompareController::markChanged, this, &PicturesPage::showMark);
    chooseMode(0);
}

void PicturesPage::chooseMode(int mode) {
    m_view->setMode(static_cast<StripView::Mode>(mode));
    const bool hasPair = mode >= 2;
    m_against->setVisible(hasPair);
    m_againstLabel->setVisible(hasPair);
}

void PicturesPage::refreshAgainst() {
    const QString chosen = m_against->currentText();
    m_against->clear();
    const auto& cameras = m_controller.cameras();
    for (int i = 0; i < cameras.size(); ++i) {
        if (i != m_controller.referenceIndex()) m_against->addItem(cameras[i].letter, i);
    }
    m_against->setCurrentIndex(std::max(0, m_against->findText(chosen)));
    choosePair();
}

void PicturesPage::choosePair() {
    m_view->setPair(
        m_controller.referenceIndex(),
        m_against->count() > 0 ? m_against->currentData().toInt() : m_controller.referenceIndex());
}

void PicturesPage::refresh() {
    QVector<StripView::Strip> strips;
    for (const ComparedCamera& camera : m_controller.cameras()) {
        StripView::Strip strip;
        strip.letter = camera.letter;
        if (camera.missing.isEmpty() && camera.toPicture) {
            strip.picture = camera.picture;
            strip.toPicture = *camera.toPicture;
            if (strip.picture.isNull()) strip.missing = tr("Loading…");
        } else {
            strip.missing = camera.missing;
        }
        strips << strip;
    }
    m_view->setStrips(strips, m_controller.aspect());
    m_view->setRegion(m_controller.region());
    refreshAgainst();
    showMark();
}

void PicturesPage::showMark() {
    if (m_view->mark() != m_controller.mark()) m_view->setMark(m_controller.mark());
    if (!m_controller.mark()) {
        m_values->setText(u"<span style='color:#a5a5a5'>%1</span>"_s.arg(tr(
            "Click a place, or press an arrow key in the pictures, to read it on all cameras.")));
        return;
    }
    const auto reference = m_controller.signalAtMark(m_controller.referenceIndex());
    QString text;
    const auto& cameras = m_controller.cameras();
    for (int i = 0; i < cameras.size(); ++i) {
        const auto signal = m_controller.signalAtMark(i);
        text += u"<span style='color:%1'><b>%2</b></span>&nbsp;"_s.arg(
            theme::cameraColour(cameras[i].letter).name(), cameras[i].letter);
        const QString quiet = u"<span style='color:#a5a5a5'>%1</span>"_s;
        if (!signal) {
            text += quiet.arg(together(tr("not seen")));
        } else {
            text += together(signalText(signal->signal) + u' ');
            text += quiet.arg(together(tr("luma %1 ± %2")
                                           .arg(signal->lumaPercent, 0, 'f', 1)
                                           .arg(shownError(signal->lumaUncertainty), 0, 'f', 1)));
            if (reference && i != m_controller.referenceIndex()) {
                const double apart = signal->lumaPercent - reference->lumaPercent;
                const double error =
                    std::hypot(signal->lumaUncertainty, reference->lumaUncertainty);
                text += together(u" (%1 ± %2)"_s.arg(plain(base::signedFixed(apart, 1)))
                                     .arg(shownError(error), 0, 'f', 1));
            }
        }
        text += u"&nbsp;&nbsp;&nbsp; "_s;
    }
    m_values->setText(text);
}

QString PicturesPage::numbers() const {
    QStringList lines{tr("camera\tR' %\tG' %\tB' %\tluma %\t± %")};
    const auto& cameras = m_controller.cameras();
    for (int i = 0; i < cameras.size(); ++i) {
        const auto signal = m_controller.signalAtMark(i);
        if (!signal) continue;
        lines << QStringList{cameras[i].letter,
                             QString::number(100.0 * signal->signal[0], 'f', 2),
                             QString::number(100.0 * signal->signal[1], 'f', 2),
                             QString::number(100.0 * signal->signal[2], 'f', 2),
                             QString::number(signal->lumaPercent, 'f', 2),
                             QString::number(signal->lumaUncertainty, 'f', 2)}
                     .join(u'\t');
    }
    return lines.join(u'\n') + u'\n';
}

}  // namespace rigmatch::app
