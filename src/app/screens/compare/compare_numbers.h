// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QColor>
#include <QString>
#include <QVector>

#include "app/screens/compare/compare_controller.h"
#include "app/widgets/neutral_ladder.h"
#include "app/widgets/patch_quilt.h"

namespace rigmatch::app {

/// Patches of every camera with a chart at the present stage, and how far they are from the
/// reference's.
struct QuiltData {
    QStringList letters;
    QVector<match::PatchSignals> signalsPerCamera;
    QVector<match::ColourDifference> against;  ///< the reference; empty lists for itself
    QVector<PatchQuilt::Patch> patches;
    QVector<std::size_t> neutrals;  ///< indices of the grey patches
    int columns = 6;                ///< of the reference
};
[[nodiscard]] QuiltData quiltData(const CompareController& controller);

[[nodiscard]] QVector<NeutralLadder::Camera> ladderOf(const QuiltData& quilt);
/// Names of the reference's greys.
[[nodiscard]] QStringList greyNames(const QuiltData& quilt);

/// Colour differences Cb, Cr (BT.709) of the patches.
[[nodiscard]] QVector<QPointF> chromaDots(const match::PatchSignals& patches);

/// "57.4 / 45.0 / 38.1 %", luma first where asked.
[[nodiscard]] QString signalText(const std::array<double, 3>& signal);
[[nodiscard]] double lumaPercent(const std::array<double, 3>& signal);

/// Tab-separated lines: patch, then R' G' B' of every camera and its ΔE2000.
[[nodiscard]] QString quiltNumbers(const QuiltData& quilt);

}  // namespace rigmatch::app
