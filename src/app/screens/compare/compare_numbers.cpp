// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/screens/compare/compare_numbers.h"

#include <QCoreApplication>
#include <algorithm>

#include "app/services/texts.h"
#include "jobs/match_job.h"

namespace rigmatch::app {
namespace {

using namespace Qt::StringLiterals;

}  // namespace

double lumaPercent(const std::array<double, 3>& signal) { return 100.0 * match::lumaOf(signal); }

QString signalText(const std::array<double, 3>& signal) {
    return u"%1 / %2 / %3 %"_s.arg(100.0 * signal[0], 0, 'f', 1)
        .arg(100.0 * signal[1], 0, 'f', 1)
        .arg(100.0 * signal[2], 0, 'f', 1);
}

QuiltData quiltData(const CompareController& controller) {
    QuiltData data;
    const ComparedCamera* reference = nullptr;
    const std::string* layout = nullptr;
    for (const ComparedCamera& camera : controller.cameras()) {
        const bool isReference = camera.cameraId == plain(controller.rig().referenceId);
        if (camera.reading != nullptr && camera.reading->hasChart &&
            (layout == nullptr || isReference))
            layout = &camera.reading->layout;
    }
    for (const ComparedCamera& camera : controller.cameras()) {
        if (camera.reading == nullptr || !camera.reading->hasChart) continue;
        // Patches of different references are not laid side by side.
        if (layout != nullptr && camera.reading->layout != *layout) continue;
        if (camera.cameraId == plain(controller.rig().referenceId)) reference = &camera;
        data.letters << camera.letter;
        data.signalsPerCamera << jobs::patchesAt(*camera.reading, camera.stage);
    }
    const match::PatchSignals target = reference != nullptr
                                           ? jobs::patchesAt(*reference->reading, reference->stage)
                                           : match::PatchSignals{};
    for (int i = 0; i < data.letters.size(); ++i) {
        const bool isReference = reference == nullptr || data.letters[i] == reference->letter;
        data.against << (isReference
                             ? match::ColourDifference{}
                             : match::colourDifference(data.signalsPerCamera[i], {}, target, {}));
    }
    QVector<std::vector<jobs::ScreenColour>> colours;
    for (const auto& patches : data.signalsPerCamera) colours << jobs::screenColours(patches);
    const rig::Reading* named = nullptr;
    for (const ComparedCamera& camera : controller.cameras()) {
        if (camera.reading != nullptr && camera.reading->hasChart &&
            camera.reading->layout == *layout)
            named = camera.reading;
    }
    if (named != nullptr) data.columns = named->columns;
    for (std::size_t p = 0; named != nullptr && p < named->patches.size(); ++p) {
        PatchQuilt::Patch patch;
        patch.name = fromCore(named->patches[p].name);
        for (const auto& camera : colours) {
            if (p < camera.size())
                patch.colours << QColor(camera[p][0], camera[p][1], camera[p][2]);
        }
        for (const match::ColourDifference& difference : data.against) {
            if (p < difference.perPatch.size())
                patch.largestDeltaE = std::max(patch.largestDeltaE, difference.perPatch[p]);
        }
        const bool isSkin = patch.name.contains("skin"_L1);
        patch.isNear = patch.largestDeltaE > (isSkin ? 1.5 : 2.0);
        patch.isOff = patch.largestDeltaE > (isSkin ? 3.0 : 3.5);
        data.patches << patch;
        if (named->patches[p].isNeutral) data.neutrals << p;
    }
    return data;
}

QVector<NeutralLadder::Camera> ladderOf(const QuiltData& quilt) {
    QVector<NeutralLadder::Camera> cameras;
    for (int i = 0; i < quilt.letters.size(); ++i) {
        NeutralLadder::Camera camera{quilt.letters[i], {}};
        const match::PatchSignals& patches = quilt.signalsPerCamera[i];
        for (const std::size_t p : quilt.neutrals) {
            if (p < patches.size()) camera.percent << lumaPercent(patches[p]);
        }
        cameras << camera;
    }
    return cameras;
}

QStringList greyNames(const QuiltData& quilt) {
    QStringList names;
    for (const std::size_t p : quilt.neutrals)
        names << quilt.patches[static_cast<qsizetype>(p)].name;
    return names;
}

QVector<QPointF> chromaDots(const match::PatchSignals& patches) {
    QVector<QPointF> dots;
    for (const auto& signal : patches) {
        const match::Chroma chroma = match::chromaOf(signal);
        dots << QPointF(chroma.cb, chroma.cr);
    }
    return dots;
}

QString quiltNumbers(const QuiltData& quilt) {
    const auto words = [](const char* text) {
        return QCoreApplication::translate("CompareNumbers", text);
    };
    QStringList head{words("patch")};
    for (const QString& letter : quilt.letters)
        head << letter + words(" R' %") << letter + words(" G' %") << letter + words(" B' %")
             << letter + words(" ΔE2000");
    QStringList lines{head.join(u'\t')};
    for (int p = 0; p < quilt.patches.size(); ++p) {
        QStringList line{quilt.patches[p].name};
        const auto index = static_cast<std::size_t>(p);
        for (int i = 0; i < quilt.letters.size(); ++i) {
            for (std::size_t c = 0; c < 3; ++c)
                line << QString::number(100.0 * quilt.signalsPerCamera[i][index][c], 'f', 2);
            const auto& perPatch = quilt.against[i].perPatch;
            line << (index < perPatch.size() ? QString::number(perPatch[index], 'f', 2)
                                             : QString());
        }
        lines << line.join(u'\t');
    }
    return lines.join(u'\n') + u'\n';
}

}  // namespace rigmatch::app
