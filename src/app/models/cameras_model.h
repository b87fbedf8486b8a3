// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QAbstractTableModel>

#include "rig/rig.h"

namespace rigmatch::app {

/// The cameras of a rig, one row each.
class CamerasModel : public QAbstractTableModel {
    Q_OBJECT
public:
    enum class Column { Camera, Body, Exposure, Colour, Recording, Attention };
    static constexpr int kColumns = 6;
    enum Role { LetterRole = Qt::UserRole + 1, HasFlagRole, IsReferenceRole };

    using QAbstractTableModel::QAbstractTableModel;
    void setRig(const rig::Rig& rig);

    [[nodiscard]] int rowCount(const QModelIndex& parent = {}) const override;
    [[nodiscard]] int columnCount(const QModelIndex& parent = {}) const override;
    [[nodiscard]] QVariant data(const QModelIndex& index, int role) const override;
    [[nodiscard]] QVariant headerData(int section,
                                      Qt::Orientation orientation,
                                      int role) const override;

    /// Number of cameras with something that will hurt.
    [[nodiscard]] int flaggedCameras() const;

private:
    [[nodiscard]] QString text(const rig::Camera& camera, Column column) const;

    rig::Rig m_rig;
};

/// "ISO 800 · f/2.8 · 1/50 s" and the like, used by several screens.
[[nodiscard]] QString exposureText(const rig::Settings& settings);
[[nodiscard]] QString colourText(const rig::Settings& settings);

}  // namespace rigmatch::app
