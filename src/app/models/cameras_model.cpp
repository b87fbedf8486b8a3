// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/models/cameras_model.h"

#include "app/services/texts.h"
#include "optics/exposure.h"
#include "rig/turn.h"

namespace rigmatch::app {
namespace {

using namespace Qt::StringLiterals;

const QString& dot() {
    static const QString kDot = u" · "_s;
    return kDot;
}

}  // namespace

QString exposureText(const rig::Settings& s) {
    QStringList parts;
    parts << (s.isAutoExposure ? QCoreApplication::translate("CamerasModel", "automatic exposure")
                               : plain(rig::valueText(rig::Control::Iso, s.isoValue)));
    parts << plain(rig::valueText(rig::Control::Aperture, s.fNumber))
          << plain(optics::shutterText(s.shutterSeconds));
    if (s.ndStops > 0.0) parts << plain(rig::valueText(rig::Control::Nd, s.ndStops));
    return parts.join(dot());
}

QString colourText(const rig::Settings& s) {
    const QString balance =
        s.isAutoWhiteBalance
            ? QCoreApplication::translate("CamerasModel", "automatic white balance")
            : plain(rig::valueText(rig::Control::WhiteBalance, s.whiteBalanceKelvin));
    return QStringList{balance,
                       QCoreApplication::translate("CamerasModel", "tint %1")
                           .arg(plain(rig::valueText(rig::Control::Tint, s.tintSteps))),
                       plain(s.profile)}
        .join(dot());
}

void CamerasModel::setRig(const rig::Rig& rig) {
    const auto rows = static_cast<int>(rig.cameras.size());
    const int before = rowCount();
    if (rows > before) {
        beginInsertRows({}, before, rows - 1);
        m_rig = rig;
        endInsertRows();
    } else if (rows < before) {
        beginRemoveRows({}, rows, before - 1);
        m_rig = rig;
        endRemoveRows();
    }
    m_rig = rig;
    if (rows > 0) Q_EMIT dataChanged(index(0, 0), index(rows - 1, kColumns - 1));
}

int CamerasModel::rowCount(const QModelIndex& parent) const {
    return parent.isValid() ? 0 : static_cast<int>(m_rig.cameras.size());
}

int CamerasModel::columnCount(const QModelIndex& parent) const {
    return parent.isValid() ? 0 : kColumns;
}

int CamerasModel::flaggedCameras() const {
    int count = 0;
    for (const rig::Camera& camera : m_rig.cameras)
        count += rig::cameraFlags(m_rig, camera).empty() ? 0 : 1;
    return count;
}

QString CamerasModel::text(const rig::Camera& camera, Column column) const {
    switch (column) {
        case Column::Camera:
            return plain(camera.role);
        case Column::Body:
            return plain(camera.body) + u"\n"_s + plain(camera.lens.name);
        case Column::Exposure:
            return exposureText(camera.settings);
        case Column::Colour:
            return colourText(camera.settings);
        case Column::Recording:
            return tr("%1 fps · %2 × %3")
                .arg(camera.settings.frameRate)
                .arg(camera.settings.width)
                .arg(camera.settings.height);
        case Column::Attention: {
            QStringList flags;
            for (const rig::CameraFlag& flag : rig::cameraFlags(m_rig, camera))
                flags << fromCore(flag.title);
            return flags.join(u"\n"_s);
        }
    }
    return {};
}

QVariant CamerasModel::data(const QModelIndex& index, int role) const {
    if (!index.isValid() || index.row() >= rowCount()) return {};
    const rig::Camera& camera = m_rig.cameras[static_cast<std::size_t>(index.row())];
    const auto column = static_cast<Column>(index.column());
    switch (role) {
        case Qt::DisplayRole:
            return text(camera, column);
        case Qt::ToolTipRole: {
            if (column != Column::Attention) return text(camera, column);
            QStringList flags;
            for (const rig::CameraFlag& flag : rig::cameraFlags(m_rig, camera))
                flags << fromCore(flag.text);
            return flags.join(u"\n"_s);
        }
        case Qt::AccessibleTextRole:
            return tr("Camera %1: %2").arg(plain(camera.letter), text(camera, column));
        case LetterRole:
            return plain(camera.letter);
        case HasFlagRole:
            return !rig::cameraFlags(m_rig, camera).empty();
        case IsReferenceRole:
            return camera.id == m_rig.referenceId;
        default:
            return {};
    }
}

QVariant CamerasModel::headerData(int section, Qt::Orientation orientation, int role) const {
    if (role != Qt::DisplayRole || orientation != Qt::Horizontal) return {};
    switch (static_cast<Column>(section)) {
        case Column::Camera:
            return tr("Camera");
        case Column::Body:
            return tr("Body and lens");
        case Column::Exposure:
            return tr("Exposure");
        case Column::Colour:
            return tr("Colour");
        case Column::Recording:
            return tr("Recording");
        case Column::Attention:
            return tr("Attention");
    }
    return {};
}

}  // namespace rigmatch::app
