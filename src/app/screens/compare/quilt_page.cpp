// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/screens/compare/quilt_page.h"

#include <QHBoxLayout>

#include "app/widgets/build.h"
#include "app/widgets/scope_view.h"
#include "app/widgets/theme.h"

namespace rigmatch::app {
namespace {

using namespace Qt::StringLiterals;

QFrame* card(const QString& name,
             const QString& title,
             const QString& help,
             QWidget* content,
             QLabel** helpLabel,
             QWidget* parent) {
    QFrame* frame = makeCard(name, parent);
    auto* layout = new QVBoxLayout(frame);
    auto* head = new QHBoxLayout;
    head->addWidget(makeLabel(title, "heading", QString(), frame));
    auto* words = makeLabel(help, "dim", name + u"Help"_s, frame);
    head->addWidget(words);
    head->addStretch();
    if (helpLabel != nullptr) *helpLabel = words;
    layout->addLayout(head);
    content->setParent(frame);
    layout->addWidget(content, 1);
    return frame;
}

}  // namespace

QuiltPage::QuiltPage(CompareController& controller, QWidget* parent)
    : ComparePage(controller, parent) {
    setObjectName(u"quiltPage"_s);
    auto* layout = new QHBoxLayout(this);
    layout->setContentsMargins(0, 0, 0, 0);
    layout->setSpacing(12);
    m_quilt = new PatchQuilt(this);
    m_quilt->setObjectName(u"compareQuilt"_s);
    QFrame* left = card(u"quiltCard"_s, tr("Patch quilt"), QString(), m_quilt, &m_title, this);
    m_details = makeLabel(QString(), "dim", u"quiltDetails"_s, left);
    m_details->setWordWrap(true);
    m_details->setTextFormat(Qt::RichText);
    m_details->setMinimumHeight(58);
    m_details->setAlignment(Qt::AlignTop | Qt::AlignLeft);
    left->layout()->addWidget(m_details);
    layout->addWidget(left, 5);
    auto* right = new QVBoxLayout;
    right->setSpacing(12);
    m_vectors = new ScopeView(this);
    m_vectors->setObjectName(u"chartVectors"_s);
    m_vectors->setOverlaid(true);
    right->addWidget(card(u"vectorsCard"_s,
                          tr("Vectorscope"),
                          tr("the chart's patches, Cb/Cr plane"),
                          m_vectors,
                          nullptr,
                          this),
                     3);
    m_ladder = new NeutralLadder(this);
    m_ladder->setObjectName(u"compareLadder"_s);
    right->addWidget(card(u"ladderCard"_s,
                          tr("Neutral ladder"),
                          tr("luma of the six greys, %; below: how far apart the cameras are"),
                          m_ladder,
                          nullptr,
                          this),
                     2);
    layout->addLayout(right, 4);
    connect(m_quilt, &PatchQuilt::chosen, this, &QuiltPage::showPatch);
}

void QuiltPage::refresh() {
    m_data = quiltData(m_controller);
    m_quilt->setPatches(m_data.patches, m_data.letters, m_data.columns);
    m_title->setText(tr("each patch striped from left to right: %1; number: largest ΔE2000")
                         .arg(m_data.letters.join(u' ')));
    m_ladder->setCameras(ladderOf(m_data), greyNames(m_data));
    QVector<ScopeView::Trace> traces;
    for (int i = 0; i < m_data.letters.size(); ++i) {
        ScopeView::Trace trace;
        trace.letter = m_data.letters[i];
        trace.dots = chromaDots(m_data.signalsPerCamera[i]);
        traces << trace;
    }
    m_vectors->setTraces(ScopeView::Kind::Vectorscope, traces);
    showPatch(m_quilt->current());
}

void QuiltPage::showPatch(int patch) {
    if (patch < 0 || patch >= m_data.patches.size()) {
        m_details->setText(
            tr("Matched cameras show no stripes. Choose a patch to read it on every camera."));
        return;
    }
    const auto index = static_cast<std::size_t>(patch);
    QString text = u"<b>%1</b>&nbsp;&nbsp; R' / G' / B'<br>"_s.arg(m_data.patches[patch].name);
    for (int i = 0; i < m_data.letters.size(); ++i) {
        const auto& perPatch = m_data.against[i].perPatch;
        text += u"<span style='color:%1'><b>%2</b></span> %3"_s.arg(
            theme::cameraColour(m_data.letters[i]).name(),
            m_data.letters[i],
            signalText(m_data.signalsPerCamera[i][index]));
        text += index < perPatch.size() ? tr(" (ΔE %1)").arg(perPatch[index], 0, 'f', 1)
                                        : tr(" (reference)");
        text += u"&nbsp;&nbsp;&nbsp; "_s;
    }
    m_details->setText(text);
}

QString QuiltPage::numbers() const { return quiltNumbers(m_data); }

}  // namespace rigmatch::app
