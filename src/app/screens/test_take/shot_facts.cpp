// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/screens/test_take/shot_facts.h"

#include <QCoreApplication>
#include <QStringList>

#include "app/services/texts.h"
#include "base/format.h"
#include "words/english.h"

namespace rigmatch::app {
namespace {

using namespace Qt::StringLiterals;
using Attention = ShotListModel::Attention;

class FactWords {
    Q_DECLARE_TR_FUNCTIONS(ShotFacts)
public:
    static QString noClip() { return tr("no clip yet"); }
    static QString measuring(double share) {
        return tr("measuring, %1 %").arg(static_cast<int>(share * 100.0));
    }
    static QString waiting() { return tr("not measured"); }
    static QString unreadable() { return tr("cannot be read"); }
    static QString noChart() { return tr("no chart found"); }
    static QString notMarked() { return tr("not marked yet"); }
    static QString withoutChart(const rig::Reading& r) {
        return r.reasonCode == "NotMarked" ? notMarked() : noChart();
    }
    static QString chart(int frames, int warnings) {
        const QString text =
            counted(frames, tr("chart found, 1 frame"), tr("chart found, %1 frames"));
        return warnings == 0 ? text
                             : text + counted(warnings, tr(", 1 warning"), tr(", %1 warnings"));
    }
    static QString watched(int warnings) {
        return warnings == 0 ? tr("watched")
                             : counted(warnings, tr("1 warning"), tr("%1 warnings"));
    }
    static QString more(int parts) {
        return counted(parts, tr(" and 1 part"), tr(" and %1 parts"));
    }
    static QString kind(rig::SourceKind kind) {
        switch (kind) {
            case rig::SourceKind::SoundRecorder:
                return tr("Sound recorder");
            case rig::SourceKind::Switcher:
                return tr("Switcher’s recording");
            case rig::SourceKind::Computer:
                return tr("Computer’s recording");
        }
        return {};
    }
    static QString purpose(rig::Purpose purpose) {
        switch (purpose) {
            case rig::Purpose::Match:
                return tr("matching");
            case rig::Purpose::Framing:
                return tr("framing");
            case rig::Purpose::Timing:
                return tr("timing and sound");
            case rig::Purpose::TryOut:
                return tr("profile try-out");
            case rig::Purpose::Probe:
                return tr("probe of a control");
            case rig::Purpose::Programme:
                return tr("the programme");
        }
        return {};
    }
    static QString parts(const rig::Shot& shot) {
        QStringList names;
        for (const auto& part : shot.laterParts) names << plain(part.filename().string());
        return tr("Goes on in %1; the first part was measured.").arg(names.join(u", "_s));
    }
    static QString manual() { return tr("corners set by hand"); }
    static QString doubtful() { return tr("corners not on the chart"); }
    static QString emptyFacts() {
        return tr("Choose a camera and drop its clip here. The chart is found by itself.");
    }
    static QString file(const rig::Reading& r) {
        if (!r.hasPicture)
            return tr("A recording of sound, %1 s long.").arg(r.durationSeconds, 0, 'f', 1);
        const QString kind = r.isStill ? tr("Still")
                                       : tr("Clip of %1 s at %2 fps")
                                             .arg(r.durationSeconds, 0, 'f', 1)
                                             .arg(r.frameRate, 0, 'g', 5);
        return tr("%1, %2 × %3, %4 bit, %5 range, matrix %6, primaries %7.")
            .arg(kind)
            .arg(r.width)
            .arg(r.height)
            .arg(r.bitDepth)
            .arg(plain(r.range), plain(r.matrix), plain(r.primaries));
    }
    static QString span(const rig::Reading& r) {
        if (r.isStill || r.framesUsed == 1) return tr("One frame was measured.");
        return tr("The chart rests from %1 to %2 s; %3 frames were averaged.")
            .arg(r.spanStartSeconds, 0, 'f', 2)
            .arg(r.spanEndSeconds, 0, 'f', 2)
            .arg(r.framesUsed);
    }
    static QString found(const rig::Reading& r) {
        const int percent = qRound(r.confidence * 100.0);
        return (r.areCornersManual
                    ? tr("The corners were set by hand; the colours under them agree with the "
                         "chart's to %1 %.")
                    : tr("Found by itself, confidence %1 %."))
            .arg(percent);
    }
    static QString faces(const rig::Reading& r) {
        QStringList levels;
        for (const rig::FaceReading& face : r.faces) {
            const auto& skin = face.forehead;
            levels << (skin ? tr("%1 %").arg(100.0 * skin->signal[1], 0, 'f', 0) : tr("unknown"));
        }
        return r.faces.size() == 1 ? tr("One face, forehead green %1.").arg(levels.front())
                                   : tr("%1 faces from left to right, forehead green %2.")
                                         .arg(r.faces.size())
                                         .arg(levels.join(u", "_s));
    }
    static QString sound(const rig::SoundReading& sound) {
        QStringList means, peaks;
        for (const rig::ChannelLevel& channel : sound.channels) {
            means << fromCore(base::signedFixed(channel.meanDbfs, 0));
            peaks << fromCore(base::signedFixed(channel.peakDbfs, 0));
        }
        return tr("Sound: %1 at %2 kHz, mean %3 dBFS, peaks %4 dBFS.")
            .arg(counted(static_cast<int>(means.size()), tr("1 channel"), tr("%1 channels")))
            .arg(sound.sampleRate / 1000.0, 0, 'g', 4)
            .arg(means.join(u", "_s), peaks.join(u", "_s));
    }
    /// The other reading that a warning offers, as a link; empty where it offers none.
    static QString offer(const base::Warning& warning, const rig::Shot& shot) {
        const rig::Reading& r = *shot.reading;
        const auto link = [](const QString& to, const QString& text) {
            return u" <a href='%1' style='color:#9cc4f0'>%2</a>"_s.arg(to, text.toHtmlEscaped());
        };
        const bool isRange = warning.code == "RangeTagMissing" ||
                             warning.code == "RangeTagContradicted" ||
                             warning.code == "CodesStretched";
        if (isRange)
            return r.range == "full" ? link(u"range:limited"_s, tr("Read as limited range"))
                                     : link(u"range:full"_s, tr("Read as full range"));
        const bool isMatrix =
            warning.code == "MatrixTagMissing" || warning.code == "MatrixTagUnusual";
        if (isMatrix)
            return r.matrix == "bt601" ? link(u"matrix:bt709"_s, tr("Take BT.709"))
                                       : link(u"matrix:bt601"_s, tr("Take BT.601"));
        if (warning.code == "PartLookedAt") return link(u"whole:yes"_s, tr("Look at all of it"));
        if (warning.code == "PrimariesDoubted")
            return shot.primariesOverride == "bt2020"
                       ? link(u"primaries:bt709"_s, tr("Take BT.709"))
                       : link(u"primaries:bt2020"_s, tr("Take BT.2020"));
        return {};
    }
    static QString noneClipped() { return tr("No patch is clipped."); }
    static QString grey(const rig::Reading& r) {
        if (const auto grey = rig::greyPatch(r)) {
            const rig::PatchReading& p = r.patches[*grey];
            QString name = fromCore(p.name);
            if (!name.isEmpty()) name[0] = name[0].toUpper();
            return tr("%1 reads %2, %3, %4 % (R, G, B), noise ±%5 %.")
                .arg(name)
                .arg(100.0 * p.signal[0], 0, 'f', 1)
                .arg(100.0 * p.signal[1], 0, 'f', 1)
                .arg(100.0 * p.signal[2], 0, 'f', 1)
                .arg(100.0 * p.noise[1], 0, 'f', 2);
        }
        return {};
    }
};

QString paragraph(const QString& text,
                  const QString& hint,
                  bool isAttention,
                  const QString& offer = {}) {
    const QString mark = isAttention ? u"<span style='color:#deaa54'>△</span> "_s : QString();
    const QString after =
        hint.isEmpty() ? QString()
                       : u" <span style='color:#a5a5a5'>"_s + hint.toHtmlEscaped() + u"</span>"_s;
    return u"<p style='margin:0 0 5px 0'>"_s + mark + text.toHtmlEscaped() + after + offer +
           u"</p>"_s;
}

}  // namespace

QString kindText(rig::SourceKind kind) { return FactWords::kind(kind); }
QString purposeText(rig::Purpose purpose) { return FactWords::purpose(purpose); }

void putShot(const rig::Shot* shot,
             bool isChartWanted,
             double measuredShare,
             ShotListModel::Row& row) {
    row.state = FactWords::noClip();
    if (shot == nullptr) return;
    row.file = plain(shot->media.filename().string());
    if (!shot->laterParts.empty())
        row.file += FactWords::more(static_cast<int>(shot->laterParts.size()));
    if (measuredShare >= 0.0) {
        row.state = FactWords::measuring(measuredShare);
    } else if (!shot->failure.empty()) {
        row.state = FactWords::unreadable();
        row.attention = Attention::Off;
    } else if (!shot->reading) {
        row.state = FactWords::waiting();
    } else if (!isChartWanted) {
        row.state = FactWords::watched(static_cast<int>(shot->reading->warnings.size()));
        if (!shot->reading->warnings.empty()) row.attention = Attention::Near;
    } else if (!shot->reading->hasChart) {
        row.state = FactWords::withoutChart(*shot->reading);
        row.attention = Attention::Off;
    } else {
        row.state = shot->reading->areCornersManual
                        ? FactWords::manual()
                        : FactWords::chart(shot->reading->framesUsed,
                                           static_cast<int>(shot->reading->warnings.size()));
        if (!shot->reading->warnings.empty()) row.attention = Attention::Near;
        if (shot->reading->areColoursDoubtful) {
            row.state = FactWords::doubtful();
            row.attention = Attention::Off;
        }
    }
}

QString shotFacts(const rig::Shot* shot) {
    if (shot == nullptr) return paragraph(FactWords::emptyFacts(), {}, false);
    if (!shot->failure.empty()) return paragraph(fromCore(shot->failure), {}, true);
    if (!shot->reading) return paragraph(FactWords::waiting(), {}, false);
    const rig::Reading& reading = *shot->reading;
    QString text;
    if (reading.hasChart) {
        text += paragraph(FactWords::span(reading) + u" "_s + FactWords::found(reading), {}, false);
        text += paragraph(FactWords::grey(reading), {}, false);
    } else if (reading.hasPicture && reading.reasonCode != "NotLookedFor") {
        text += paragraph(FactWords::withoutChart(reading) + u". "_s + fromCore(reading.reason),
                          fromCore(reading.hint),
                          true);
    }
    bool hasClipped = false;
    for (const base::Warning& warning : reading.warnings) {
        hasClipped = hasClipped || warning.code == "PatchesClipped";
        text += paragraph(fromCore(words::inEnglish(warning.text)),
                          fromCore(words::inEnglish(warning.hint)),
                          true,
                          FactWords::offer(warning, *shot));
    }
    if (!shot->laterParts.empty()) text += paragraph(FactWords::parts(*shot), {}, false);
    if (reading.hasChart && !hasClipped) text += paragraph(FactWords::noneClipped(), {}, false);
    if (reading.sound) text += paragraph(FactWords::sound(*reading.sound), {}, false);
    if (!reading.faces.empty()) text += paragraph(FactWords::faces(reading), {}, false);
    return text + paragraph(FactWords::file(reading), {}, false);
}

}  // namespace rigmatch::app
