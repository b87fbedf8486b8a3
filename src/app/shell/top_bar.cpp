// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/shell/top_bar.h"

#include <QComboBox>
#include <QDateTime>
#include <QFileInfo>
#include <QHBoxLayout>
#include <QLineEdit>
#include <QPainter>

#include "app/services/texts.h"
#include "app/widgets/build.h"
#include "app/widgets/theme.h"

namespace rigmatch::app {
namespace {

using namespace Qt::StringLiterals;

QIcon badgeIcon(const QString& letter) {
    QPixmap pixmap(40, 40);
    pixmap.fill(Qt::transparent);
    QPainter painter(&pixmap);
    theme::paintBadge(painter, QRectF(1, 1, 38, 38), letter);
    return QIcon(pixmap);
}

}  // namespace

TopBar::TopBar(AppContext& context, QWidget* parent) : QFrame(parent), m_context(context) {
    setObjectName(u"topBar"_s);
    auto* layout = new QHBoxLayout(this);
    layout->setContentsMargins(14, 6, 14, 6);
    m_name = new QLineEdit(this);
    m_name->setObjectName(u"rigNameEdit"_s);
    m_name->setAccessibleName(tr("Name of the rig"));
    m_name->setFrame(false);
    m_name->setMaxLength(80);
    m_name->setFixedWidth(200);
    m_name->setFont(theme::font(13, QFont::DemiBold));
    m_name->setStyleSheet(
        u"QLineEdit { background: transparent; border: 1px solid transparent; padding: 3px; } QLineEdit:hover { border-color: #505050; } QLineEdit:focus { border-color: #d6d2b0; }"_s);
    connect(m_name, &QLineEdit::editingFinished, this, &TopBar::rename);
    m_file = makeLabel(QString(), "dim", u"fileLabel"_s, this);
    layout->addWidget(m_name);
    layout->addWidget(m_file);
    layout->addStretch();
    auto* referenceLabel = makeLabel(tr("Reference"), "dim", QString(), this);
    m_reference = new QComboBox(this);
    m_reference->setObjectName(u"referenceBox"_s);
    m_reference->setAccessibleName(tr("Reference camera"));
    m_reference->setToolTip(tr("The camera that the others are matched to"));
    m_reference->setMinimumWidth(150);
    referenceLabel->setBuddy(m_reference);
    connect(m_reference, &QComboBox::activated, this, &TopBar::chooseReference);
    auto* takeLabel = makeLabel(tr("Take"), "dim", QString(), this);
    m_take = new QComboBox(this);
    m_take->setObjectName(u"takeBox"_s);
    m_take->setAccessibleName(tr("Take"));
    m_take->setMinimumWidth(130);
    takeLabel->setBuddy(m_take);
    connect(m_take, &QComboBox::activated, this, [this](int index) {
        m_context.selection.setTakeId(m_take->itemData(index).toString());
    });
    for (QWidget* widget :
         std::initializer_list<QWidget*>{referenceLabel, m_reference, takeLabel, m_take})
        layout->addWidget(widget);
    connect(&m_context.document, &RigDocument::rigChanged, this, &TopBar::refresh);
    connect(&m_context.document, &RigDocument::stateChanged, this, &TopBar::refresh);
    connect(&m_context.selection, &Selection::changed, this, &TopBar::refresh);
    refresh();
}

void TopBar::rename() {
    const QString name = m_name->text().trimmed();
    if (name.isEmpty()) {
        refresh();
        return;
    }
    rig::Rig next = m_context.document.rig();
    next.name = name.toStdString();
    m_context.document.change(tr("Rename the rig"), next);
}

void TopBar::chooseReference(int index) {
    rig::Rig next = m_context.document.rig();
    next.referenceId = m_reference->itemData(index).toString().toStdString();
    m_context.document.change(tr("Choose the reference"), next);
}

void TopBar::refresh() {
    const rig::Rig& rig = m_context.document.rig();
    if (!m_name->hasFocus()) m_name->setText(plain(rig.name));
    const QString file = m_context.document.path().isEmpty()
                             ? tr("not saved yet")
                             : QFileInfo(m_context.document.path()).fileName();
    m_file->setText(m_context.document.isReadOnly() ? tr("%1 (read-only)").arg(file) : file);
    m_reference->clear();
    for (const rig::Camera& camera : rig.cameras) {
        m_reference->addItem(badgeIcon(plain(camera.letter)), plain(camera.role), plain(camera.id));
    }
    m_reference->setCurrentIndex(m_reference->findData(plain(rig.referenceId)));
    m_reference->setEnabled(rig.cameras.size() > 1);
    m_take->clear();
    for (const rig::Take& take : rig.takes) {
        const QDateTime at = QDateTime::fromString(plain(take.startedAt), Qt::ISODate);
        m_take->addItem(at.isValid()
                            ? tr("Take %1 · %2").arg(take.number).arg(at.toString(u"HH:mm"_s))
                            : tr("Take %1").arg(take.number),
                        plain(take.id));
    }
    const rig::Take* current = m_context.currentTake();
    m_take->setCurrentIndex(current == nullptr ? -1 : m_take->findData(plain(current->id)));
    m_take->setEnabled(rig.takes.size() > 1);
    if (rig.takes.empty()) m_take->setPlaceholderText(tr("no take yet"));
}

}  // namespace rigmatch::app
