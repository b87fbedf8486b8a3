// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/screens/test_take/reference_panel.h"

#include <QComboBox>
#include <QHBoxLayout>
#include <QTimer>

#include "app/services/texts.h"
#include "app/widgets/build.h"

namespace rigmatch::app {

using namespace Qt::StringLiterals;

namespace {

constexpr int kRestMs = 500;

class Words {
    Q_DECLARE_TR_FUNCTIONS(ReferencePanel)
public:
    /// Names of the references that ship, for translation; a user's own keeps its name.
    static QString name(const jobs::ReferenceEntry& entry) {
        if (entry.id == "classic-24") return tr("24-patch chart");
        if (entry.id == "strip-24") return tr("24-patch strip, 12 × 2");
        if (entry.id == "strip-12") return tr("12-patch strip, 6 × 2");
        if (entry.id == "white-grey-black") return tr("White, grey and black card");
        if (entry.id == "grey-card") return tr("Grey card");
        if (entry.id == "printed-card") return tr("Card printed here");
        if (entry.id == "grey-area") return tr("No chart: a grey area");
        if (entry.id == "white-area") return tr("No chart: a white area");
        return tr("Own: %1").arg(plain(entry.name));
    }
    static QString note(const jobs::ReferenceEntry& entry) {
        QString found = entry.isSearched
                            ? tr("Found by itself.")
                            : tr("Marked by hand: put the four corners on it, on every camera.");
        switch (entry.trust) {
            case base::ValueTrust::Found:
                return found + u" "_s +
                       tr("All cameras on the very same area; exposure and white balance only.");
            case base::ValueTrust::Printed:
                return found + u" "_s + tr("For matching cameras, not for absolute colour.");
            case base::ValueTrust::Measured:
            case base::ValueTrust::Nominal:
                break;
        }
        return found;
    }
};

}  // namespace

ReferencePanel::ReferencePanel(QWidget* parent)
    : QWidget(parent), m_entries(jobs::builtinReferences()), m_settled(new QTimer(this)) {
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(0, 0, 0, 0);
    layout->setSpacing(4);
    auto* label = makeLabel(tr("Chart on the se&t"), "dim", QString(), this);
    m_box = new QComboBox(this);
    m_box->setObjectName(u"chartBox"_s);
    m_box->setAccessibleName(tr("Chart on the set"));
    m_box->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
    for (const jobs::ReferenceEntry& entry : m_entries) {
        m_box->addItem(Words::name(entry), plain(entry.id));
        m_box->setItemData(m_box->count() - 1, fromCore(entry.source), Qt::ToolTipRole);
    }
    label->setBuddy(m_box);
    m_note = makeLabel(QString(), "dim", u"chartNote"_s, this);
    m_note->setWordWrap(true);
    auto* row = new QHBoxLayout;
    row->setSpacing(6);
    m_own =
        makeButton(tr("O&wn chart…"),
                   u"ownChartButton"_s,
                   tr("Open a chart of your own: a description, or measured values (CGATS, CSV)"),
                   this);
    m_print = makeButton(
        tr("&Print a card…"), u"printCardButton"_s, tr("Save a card to be printed, as PDF"), this);
    row->addWidget(m_own);
    row->addWidget(m_print);
    layout->addWidget(label);
    layout->addWidget(m_box);
    layout->addWidget(m_note);
    layout->addLayout(row);
    // Who steps through the list by keys passes charts that are not meant: every one would be
    // measured, and be a step to undo. The choice counts once it rests.
    m_settled->setSingleShot(true);
    m_settled->setInterval(kRestMs);
    connect(m_box, &QComboBox::activated, m_settled, qOverload<>(&QTimer::start));
    connect(m_settled, &QTimer::timeout, this, [this] {
        Q_EMIT chosen(m_box->currentData().toString());
    });
    connect(m_own, &QPushButton::clicked, this, &ReferencePanel::ownChartAsked);
    connect(m_print, &QPushButton::clicked, this, &ReferencePanel::cardAsked);
}

void ReferencePanel::setReference(const QString& idOrPath) {
    if (m_settled->isActive()) return;
    int index = m_box->findData(idOrPath);
    if (index < 0) {
        const auto entry = jobs::referenceOf(idOrPath.toStdString());
        if (!entry) {
            m_box->setCurrentIndex(-1);
            m_note->setText(fromCore(entry.error().detail) + u" "_s + fromCore(entry.error().hint));
            return;
        }
        m_entries.push_back(*entry);
        m_box->addItem(Words::name(*entry), idOrPath);
        m_box->setItemData(m_box->count() - 1, fromCore(entry->source), Qt::ToolTipRole);
        index = m_box->count() - 1;
    }
    m_box->setCurrentIndex(index);
    m_box->setToolTip(m_box->itemData(index, Qt::ToolTipRole).toString());
    m_note->setText(Words::note(m_entries[static_cast<std::size_t>(index)]));
}

const jobs::ReferenceEntry* ReferencePanel::reference() const {
    const int index = m_box->currentIndex();
    return index < 0 ? nullptr : &m_entries[static_cast<std::size_t>(index)];
}

void ReferencePanel::setEnabledForCameras(bool hasCameras) {
    m_box->setEnabled(hasCameras);
    m_own->setEnabled(hasCameras);
}

}  // namespace rigmatch::app
