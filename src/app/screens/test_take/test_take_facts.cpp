// SPDX-License-Identifier: GPL-3.0-or-later
// The lower part of the screen Test take: what was found in a shot, and how its codes are read.
#include <QComboBox>
#include <QHBoxLayout>
#include <QLabel>
#include <QScrollArea>

#include "app/screens/test_take/take_controller.h"
#include "app/screens/test_take/test_take_screen.h"
#include "app/services/texts.h"
#include "app/widgets/build.h"
#include "jobs/curve_job.h"

namespace rigmatch::app {

using namespace Qt::StringLiterals;

void TestTakeScreen::buildReadings(QHBoxLayout* head, QWidget* card) {
    const auto box = [&](const QString& title, const QString& name, const QString& spoken) {
        auto* label = makeLabel(title, "dim", QString(), card);
        auto* made = new QComboBox(card);
        made->setObjectName(name);
        made->setAccessibleName(spoken);
        made->addItem(tr("the file says"), QString());
        made->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
        made->setMinimumContentsLength(10);
        label->setBuddy(made);
        head->addWidget(label);
        head->addWidget(made);
        return made;
    };
    m_range = box(tr("Codes &as"), u"rangeBox"_s, tr("Read codes as"));
    m_range->addItem(tr("limited range"), u"limited"_s);
    m_range->addItem(tr("full range"), u"full"_s);
    connect(m_range, &QComboBox::activated, this, [this](int index) {
        m_controller->setRange(m_range->itemData(index).toString());
    });
    m_matrix = box(tr("Colours &by"), u"matrixBox"_s, tr("Take colours by the matrix"));
    m_matrix->addItem(u"BT.709"_s, u"bt709"_s);
    m_matrix->addItem(u"BT.601"_s, u"bt601"_s);
    m_matrix->addItem(u"BT.2020"_s, u"bt2020"_s);
    connect(m_matrix, &QComboBox::activated, this, [this](int index) {
        m_controller->setMatrix(m_matrix->itemData(index).toString());
    });
    m_primaries = box(tr("&Primaries"), u"primariesBox"_s, tr("Take colours by the primaries"));
    for (const jobs::PrimariesChoice& choice : jobs::primariesChoices())
        m_primaries->addItem(fromCore(choice.title), fromCore(choice.name));
    connect(m_primaries, &QComboBox::activated, this, [this](int index) {
        m_controller->setPrimaries(m_primaries->itemData(index).toString());
    });
}

/// "range:full", "matrix:bt709", "primaries:bt2020": the other reading that a warning offers.
void TestTakeScreen::followLink(const QString& link) {
    const QString value = link.section(u':', 1);
    if (link.startsWith(u"range:")) m_controller->setRange(value);
    if (link.startsWith(u"matrix:")) m_controller->setMatrix(value);
    if (link.startsWith(u"whole:")) m_controller->lookAtAll();
    if (link.startsWith(u"primaries:")) m_controller->setPrimaries(value);
}

QWidget* TestTakeScreen::buildFacts() {
    QFrame* card = makeCard(u"factsCard"_s, this);
    auto* layout = new QVBoxLayout(card);
    auto* head = new QHBoxLayout;
    m_pictureTitle = makeLabel(QString(), "heading", u"factsTitle"_s, card);
    head->addWidget(m_pictureTitle);
    head->addStretch();
    buildReadings(head, card);
    layout->addLayout(head);
    auto* area = new QScrollArea(card);
    area->setObjectName(u"factsArea"_s);
    area->setAccessibleName(tr("What was found"));
    area->setWidgetResizable(true);
    area->setFrameShape(QFrame::NoFrame);
    area->setStyleSheet(u"QScrollArea { border: none; }"_s);
    m_facts = makeLabel(QString(), nullptr, u"factsLabel"_s, area);
    m_facts->setWordWrap(true);
    m_facts->setAlignment(Qt::AlignTop | Qt::AlignLeft);
    m_facts->setTextFormat(Qt::RichText);
    m_facts->setAccessibleName(tr("What was found, in words"));
    m_facts->setTextInteractionFlags(Qt::LinksAccessibleByMouse | Qt::LinksAccessibleByKeyboard);
    connect(m_facts, &QLabel::linkActivated, this, &TestTakeScreen::followLink);
    area->setWidget(m_facts);
    layout->addWidget(area, 1);
    card->setMinimumHeight(176);
    return card;
}

}  // namespace rigmatch::app
