// SPDX-License-Identifier: GPL-3.0-or-later
#include "colour/curve_file.h"

#include "base/constants.h"
#include "base/format.h"
#include "colour/viewing_lut.h"

namespace rigmatch::colour {
namespace {

constexpr int kPoints = 400;
constexpr double kLowest = -0.05;
constexpr double kHighest = 1.09;
constexpr double kLeastStep = 1e-7;  // in light: below, the table stands still

}  // namespace

base::Result<TransferCurve> curveFromFile(const std::filesystem::path& file) {
    const auto lut = ViewingLut::read(file);
    if (!lut) return tl::unexpected(lut.error());
    const std::string name = file.filename().string();
    TableParameters table;
    table.source = name;
    for (int i = 0; i <= kPoints; ++i) {
        const double signal = kLowest + (kHighest - kLowest) * i / kPoints;
        const std::array<double, 3> light = lut->apply({signal, signal, signal});
        // Green stands for all: grey stays grey through a curve.
        const double green = light[1];
        // Ends that stand still (clamped tables) are left out; the curve goes on from where it
        // rises.
        if (!table.linear.empty() && green < table.linear.back() + kLeastStep) {
            if (table.linear.size() > 1 && green < table.linear.back() - 1e-4)
                return base::fail(base::ErrorCode::OutOfRange,
                                  base::say("curveFile.noCurve", {{"name", name}}),
                                  base::say("curveFile.outputFallsSignal",
                                            {{"signal", base::Number{100.0 * signal, 1}}}),
                                  base::say("curveFile.chooseTableTurns"));
            if (table.linear.size() == 1) {
                table.signal.back() = signal;
                table.linear.back() = green;
            }
            continue;
        }
        table.signal.push_back(signal);
        table.linear.push_back(green);
    }
    if (table.linear.empty() || table.linear.front() > base::kMidGrey ||
        table.linear.back() < base::kMidGrey) {
        return base::fail(
            base::ErrorCode::OutOfRange,
            base::say("curveFile.noCurve", {{"name", name}}),
            base::say(
                "curveFile.outputRunsNever",
                {{"lowest", base::Number{table.linear.empty() ? 0.0 : table.linear.front(), 3}},
                 {"highest", base::Number{table.linear.empty() ? 0.0 : table.linear.back(), 3}}}),
            base::say("curveFile.chooseTableNotLook"));
    }
    return tableCurve(std::move(table));
}

}  // namespace rigmatch::colour
