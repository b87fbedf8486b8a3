// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QAbstractTableModel>
#include <functional>
#include <vector>

#include "base/result.h"
#include "plan/camera_sheet.h"
#include "rig/rig.h"
#include "words/plan_text.h"

namespace rigmatch::app {

/// One value that a cell offers.
struct SheetChoice {
    QString text;
    QVariant value;
};

/// A row of the camera sheet: a group's title, a setting that can be changed, or a computed fact.
struct SheetRow {
    enum class Kind { Group, Setting, Fact };
    Kind kind = Kind::Setting;
    QString key;    ///< "iso", "plannedExposure": stable, also for tests
    QString title;  ///< "ISO"
    QString step;   ///< what an undo step is called
    std::function<QString(const rig::Camera&)> text{};
    std::function<QVariant(const rig::Camera&)> value{};
    /// Allowed values; empty with `takesTyping`: a field to type in; empty without: nothing to
    /// change.
    std::function<QList<SheetChoice>(const rig::Camera&)> choices{};
    /// Writes a value; the nearest allowed one where the camera does not have it.
    std::function<base::Result<void>(rig::Camera&, const QVariant&)> apply{};
    bool takesTyping = false;
    bool isRare = false;  ///< shown only where some camera has it
};

/// All rows in their groups.
[[nodiscard]] const std::vector<SheetRow>& sheetRows();

/// The camera sheet: cameras across, settings and computed facts down. Values that must agree and
/// do not are marked; values that are equal over all cameras stay quiet.
class CameraSheetModel : public QAbstractTableModel {
    Q_OBJECT
public:
    enum Role {
        LetterRole = Qt::UserRole + 1,
        LevelRole,
        IsQuietRole,
        KindRole,
        IsReferenceRole,
        CanEditRole
    };

    using QAbstractTableModel::QAbstractTableModel;
    void setRig(const rig::Rig& rig);

    [[nodiscard]] int rowCount(const QModelIndex& parent = {}) const override;
    [[nodiscard]] int columnCount(const QModelIndex& parent = {}) const override;
    [[nodiscard]] QVariant data(const QModelIndex& index, int role) const override;
    [[nodiscard]] QVariant headerData(int section,
                                      Qt::Orientation orientation,
                                      int role) const override;
    [[nodiscard]] Qt::ItemFlags flags(const QModelIndex& index) const override;
    /// Asks for the change; the rig answers by setRig().
    bool setData(const QModelIndex& index, const QVariant& value, int role) override;

    [[nodiscard]] QList<SheetChoice> choices(const QModelIndex& index) const;
    [[nodiscard]] const std::vector<words::ToldFact>& factsOf(int column) const;
    /// The fact of a row of kind Fact, or nullptr.
    [[nodiscard]] const words::ToldFact* factAt(const QModelIndex& index) const;
    [[nodiscard]] static int rowOf(const QString& key);

Q_SIGNALS:
    void edited(int row, int column, const QVariant& value);

private:
    [[nodiscard]] base::Verdict levelAt(const SheetRow& row, std::size_t column) const;
    [[nodiscard]] bool isEqualOverAll(const SheetRow& row) const;
    [[nodiscard]] QString markText(const SheetRow& row, std::size_t column) const;

    rig::Rig m_rig;
    std::vector<std::vector<words::ToldFact>> m_facts;
    std::vector<std::vector<plan::SheetMark>> m_marks;
};

}  // namespace rigmatch::app
