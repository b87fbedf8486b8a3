// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/screens/compare/scopes_page.h"

#include <QCheckBox>
#include <QComboBox>
#include <QHBoxLayout>

#include "app/screens/compare/compare_controller.h"
#include "app/services/texts.h"
#include "app/widgets/build.h"

namespace rigmatch::app {
namespace {

using namespace Qt::StringLiterals;

constexpr int kColumns = 480;  // of a waveform; more are not seen

struct Wanted {
    QString letter;
    QString missing;
    std::optional<jobs::ComparedFrame> frame;
    jobs::StageMap stage;
    scope::ScopeOptions options;
};

ScopeView::Trace counted(const Wanted& wanted, ScopeView::Kind kind) {
    ScopeView::Trace trace;
    trace.letter = wanted.letter;
    trace.missing = wanted.missing;
    if (!wanted.frame) return trace;
    const auto keep = [&](auto& place, const auto& result) {
        if (result)
            place = *result;
        else
            trace.missing = fromCore(base::fullText(result.error()));
    };
    if (kind == ScopeView::Kind::Vectorscope) {
        keep(trace.vectorscope, wanted.frame->vectorscope(wanted.options, wanted.stage));
    } else if (kind == ScopeView::Kind::Histogram) {
        keep(trace.histogram, wanted.frame->histogram(wanted.options, wanted.stage));
    } else {
        const auto wave = kind == ScopeView::Kind::Parade ? scope::WaveformKind::Parade
                                                          : scope::WaveformKind::Luma;
        keep(trace.waveform, wanted.frame->waveform(wave, wanted.options, wanted.stage));
    }
    return trace;
}

}  // namespace

ScopesPage::ScopesPage(CompareController& controller, AppContext& context, QWidget* parent)
    : ComparePage(controller, parent), m_context(context) {
    setObjectName(u"scopesPage"_s);
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(0, 0, 0, 0);
    layout->setSpacing(8);
    auto* bar = new QHBoxLayout;
    const auto box = [&](const QString& text, const QString& name) {
        auto* label = makeLabel(text, "dim", QString(), this);
        auto* combo = new QComboBox(this);
        combo->setObjectName(name);
        combo->setAccessibleName(QString(text).remove(u'&'));
        label->setBuddy(combo);
        bar->addWidget(label);
        bar->addWidget(combo);
        return combo;
    };
    m_kind = box(tr("S&cope"), u"scopeKindBox"_s);
    m_kind->addItem(tr("Waveform, luma"), static_cast<int>(ScopeView::Kind::Luma));
    m_kind->addItem(tr("Waveform, RGB parade"), static_cast<int>(ScopeView::Kind::Parade));
    m_kind->addItem(tr("Vectorscope"), static_cast<int>(ScopeView::Kind::Vectorscope));
    m_kind->addItem(tr("Histogram"), static_cast<int>(ScopeView::Kind::Histogram));
    bar->addSpacing(10);
    m_area = box(tr("of"), u"scopeAreaBox"_s);
    bar->addSpacing(10);
    m_overlay = new QCheckBox(tr("Overlai&d"), this);
    m_overlay->setObjectName(u"overlaidBox"_s);
    m_overlay->setToolTip(tr("All cameras in one field, in their colours"));
    bar->addWidget(m_overlay);
    bar->addStretch();
    layout->addLayout(bar);
    m_view = new ScopeView(this);
    m_view->setObjectName(u"scopeView"_s);
    layout->addWidget(m_view, 1);
    m_words = makeLabel(QString(), "dim", u"scopeWords"_s, this);
    m_words->setWordWrap(true);
    layout->addWidget(m_words);
    refreshAreas();
    connect(m_kind, &QComboBox::activated, this, &ScopesPage::count);
    connect(m_area, &QComboBox::activated, this, &ScopesPage::count);
    connect(m_overlay, &QCheckBox::toggled, m_view, &ScopeView::setOverlaid);
    connect(m_overlay, &QCheckBox::toggled, this, &ScopesPage::showWords);
    showWords();
}

/// Fields of their own carry their figures; those that lie over each other need them listed.
void ScopesPage::showWords() { m_words->setVisible(m_overlay->isChecked()); }

void ScopesPage::refreshAreas() {
    const QString chosen = m_area->currentData().toString();
    m_area->clear();
    m_area->addItem(tr("the whole picture"), u"whole"_s);
    if (m_controller.subject().kind != Subject::Kind::Whole)
        m_area->addItem(tr("the part shown"), u"part"_s);
    if (m_controller.region()) m_area->addItem(tr("the region drawn"), u"region"_s);
    m_area->setCurrentIndex(std::max(0, m_area->findData(chosen)));
}

void ScopesPage::refresh() {
    refreshAreas();
    count();
}

void ScopesPage::count() {
    const auto kind = static_cast<ScopeView::Kind>(m_kind->currentData().toInt());
    const QString area = m_area->currentData().toString();
    QVector<Wanted> wanted;
    const auto& cameras = m_controller.cameras();
    for (int i = 0; i < cameras.size(); ++i) {
        Wanted one{cameras[i].letter, cameras[i].missing, cameras[i].frame, cameras[i].stage, {}};
        if (!one.frame && one.missing.isEmpty()) one.missing = tr("Loading…");
        if (one.frame) {
            one.options.region = {0, 0, one.frame->width(), one.frame->height()};
            if (area != u"whole"_s) {
                const QRectF part = area == u"region"_s && m_controller.region()
                                        ? *m_controller.region()
                                        : QRectF(0, 0, 1, 1);
                const auto rect = m_controller.areaOf(i, part);
                if (rect)
                    one.options.region = *rect;
                else
                    one.missing = tr("This part is not seen here.");
            }
            if (!one.missing.isEmpty()) one.frame.reset();
            one.options.columns = std::min(kColumns, one.options.region->width);
        }
        wanted << one;
    }
    ++m_running;
    const int wish = ++m_wish;
    using Traces = QVector<ScopeView::Trace>;
    m_context.jobs.start<Traces>(
        tr("Counting the scopes"),
        this,
        [wanted, kind](const base::Progress& progress) {
            Traces traces;
            for (const Wanted& one : wanted) {
                if (progress.isCancelled()) break;
                traces << counted(one, kind);
            }
            return traces;
        },
        [this, kind, wish](const Traces& traces) {
            --m_running;
            if (wish != m_wish) return;
            m_view->setTraces(kind, traces);
            m_words->setText(m_view->accessibleDescription());
            showWords();
        });
}

QString ScopesPage::numbers() const {
    QStringList lines;
    for (const ScopeView::Trace& trace : m_view->traces())
        lines << ScopeView::reading(m_view->kind(), trace);
    return lines.join(u'\n') + u'\n';
}

}  // namespace rigmatch::app
