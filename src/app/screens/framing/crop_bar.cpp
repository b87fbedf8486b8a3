// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/screens/framing/crop_bar.h"

#include <QComboBox>
#include <QHBoxLayout>
#include <QPointer>

#include "app/screens/framing/framing_controller.h"
#include "app/services/texts.h"
#include "app/widgets/build.h"

namespace rigmatch::app {
namespace {

using namespace Qt::StringLiterals;

}  // namespace

CropBar::CropBar(AppContext& context, FramingController& controller, QWidget* parent)
    : QWidget(parent), m_context(context), m_controller(controller) {
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(0, 0, 0, 0);
    row->addWidget(makeLabel(tr("Moving crop"), "dim", QString(), this));
    const auto box = [&](const QString& label, const QString& name) {
        auto* one = new QComboBox(this);
        one->setObjectName(name);
        one->setAccessibleName(label);
        one->setToolTip(label);
        row->addWidget(one);
        return one;
    };
    m_cameras = box(tr("Camera whose person is followed"), u"cropCameraBox"_s);
    m_shapes = box(tr("Shape of the moving crop"), u"cropShapeBox"_s);
    m_shapes->addItems({u"9:16"_s, u"4:5"_s, u"1:1"_s});
    m_export =
        makeButton(tr("E&xport track…"),
                   u"exportTrackButton"_s,
                   tr("A table of where the window stands four times a second, following the "
                      "person calmly"),
                   this);
    row->addWidget(m_export);
    m_told = makeLabel(QString(), "dim", u"cropTrackTold"_s, this);
    m_told->setWordWrap(true);
    row->addWidget(m_told, 1);
    connect(m_export, &QPushButton::clicked, this, &CropBar::askFile);
    connect(&controller, &FramingController::trackMade, m_told, &QLabel::setText);
}

void CropBar::refresh() {
    const QString chosen = m_cameras->currentData().toString();
    m_cameras->clear();
    for (const auto& row : m_controller.rows()) {
        // A person has to be there to be followed, and a clip to follow them through.
        if (row.reading != nullptr && !row.reading->people.empty() && row.isClip)
            m_cameras->addItem(row.letter + u"  "_s + row.role, row.cameraId);
    }
    m_cameras->setCurrentIndex(std::max(0, m_cameras->findData(chosen)));
    m_export->setEnabled(m_cameras->count() > 0 && !m_controller.isTracking());
    if (m_controller.isTracking()) m_told->setText(tr("Following…"));
}

void CropBar::askFile() {
    const QString camera = m_cameras->currentData().toString(), shape = m_shapes->currentText();
    const QPointer<CropBar> self(this);
    m_context.files.saveTable(window(), tr("crop.csv"), [self, camera, shape](const QString& file) {
        if (self && !file.isEmpty()) self->m_controller.exportTrack(camera, shape, file);
    });
}

}  // namespace rigmatch::app
