// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/models/match_board_model.h"

#include <algorithm>
#include <cmath>

#include "app/models/settings_text.h"
#include "app/services/texts.h"
#include "base/format.h"
#include "jobs/match_job.h"
#include "match/curve_error.h"
#include "words/english.h"
#include "words/match_text.h"
#include "words/shooter_words.h"

namespace rigmatch::app {
namespace {

using namespace Qt::StringLiterals;
using match::Quality;
using match::Verdict;

/// The gauge spans two and a half times the accepted difference to each side.
constexpr double kGaugeSpans = 2.6;

QString verdictWords(Verdict verdict) {
    switch (verdict) {
        case Verdict::Good:
            return MatchBoardModel::tr("good");
        case Verdict::Near:
            return MatchBoardModel::tr("near");
        case Verdict::Off:
            return MatchBoardModel::tr("off");
        case Verdict::Unknown:
            break;
    }
    return MatchBoardModel::tr("unknown");
}

QString cellWords(Quality quality, const match::Difference& difference) {
    const words::CellText text = words::cellText(quality, difference);
    if (!difference.value) return MatchBoardModel::tr("unknown");
    return plain(text.value) + u" ± "_s + plain(text.uncertainty);
}

bool isSkin(Quality quality) {
    return quality == Quality::SkinLevel || quality == Quality::SkinHue;
}

/// The reference's people, in their order.
constexpr double kBlackStops = -2.53;  // the black patch against 18 % grey

/// "37.4 ± 0.1"; an error is at least one of the last digit.
QString withError(double value, double error, int decimals) {
    return u"%1 ± %2"_s.arg(value, 0, 'f', decimals)
        .arg(std::max(error, std::pow(10.0, -decimals)), 0, 'f', decimals);
}

/// Standard error of a neutral's red against blue, stops.
double ratioError(const match::NeutralFit& fit) {
    return std::hypot(fit.channelStopsError[0], fit.channelStopsError[2]);
}

QString skinWords(Quality quality, const match::CameraMatch& match) {
    QStringList values;
    for (const match::SkinDifference& person : match.skin) {
        const bool isLevel = quality == Quality::SkinLevel;
        const match::Measured& measured =
            isLevel ? person.values.levelPercent : person.values.hueDegrees;
        values << (isLevel ? MatchBoardModel::tr("%1 %") : MatchBoardModel::tr("%1°"))
                      .arg(withError(measured.value, measured.uncertainty, 1));
    }
    return values.isEmpty() ? MatchBoardModel::tr("no face found") : values.join(u", "_s);
}

}  // namespace

MatchBoardModel::MatchBoardModel(QObject* parent) : QAbstractTableModel(parent) {
    for (std::size_t i = 0; i < match::kQualityCount; ++i)
        m_rows.push_back(static_cast<Quality>(i));
}

Quality MatchBoardModel::qualityAt(int row) const {
    return row >= 0 && row < rowCount() ? m_rows[static_cast<std::size_t>(row)] : Quality::Exposure;
}

void MatchBoardModel::setWorstFirst(bool isWorstFirst) {
    m_isWorstFirst = isWorstFirst;
    order();
    if (columnCount() > 0) Q_EMIT headerDataChanged(Qt::Vertical, 0, rowCount() - 1);
}

/// Puts the rows into their order; what is chosen stays chosen.
void MatchBoardModel::order() {
    std::vector<Quality> rows;
    for (std::size_t i = 0; i < match::kQualityCount; ++i) rows.push_back(static_cast<Quality>(i));
    const auto worst = [this](Quality quality) {
        double most = -1.0;
        for (const match::CameraMatch& camera : m_report.cameras) {
            const match::Difference& difference = camera.differences.judged(quality);
            if (camera.isReference || !difference.value) continue;
            const double rank = difference.verdict == Verdict::Off    ? 20.0
                                : difference.verdict == Verdict::Near ? 10.0
                                                                      : 0.0;
            const bool isRatio = match::isRatio(quality);
            const double size = isRatio ? std::abs(std::log2(std::max(*difference.value, 1e-3)))
                                        : std::abs(*difference.value);
            const double accept = isRatio ? std::log2(1.0 + difference.accept) : difference.accept;
            most = std::max(most, rank + std::min(size / std::max(accept, 1e-9), 9.0));
        }
        return most;
    };
    if (m_isWorstFirst)
        std::stable_sort(
            rows.begin(), rows.end(), [&](Quality a, Quality b) { return worst(a) > worst(b); });
    if (rows == m_rows) return;
    Q_EMIT layoutAboutToBeChanged({}, VerticalSortHint);
    const QModelIndexList before = persistentIndexList();
    QModelIndexList after;
    for (const QModelIndex& one : before) {
        const auto place = std::find(rows.begin(), rows.end(), qualityAt(one.row()));
        after << index(static_cast<int>(place - rows.begin()), one.column());
    }
    m_rows = std::move(rows);
    changePersistentIndexList(before, after);
    Q_EMIT layoutChanged({}, VerticalSortHint);
}

void MatchBoardModel::setReport(const rig::Rig& rig, const match::MatchReport& report) {
    const auto before = columnCount();
    const auto after = static_cast<int>(report.cameras.size());
    if (after > before) {
        beginInsertColumns({}, before, after - 1);
        m_rig = rig;
        m_report = report;
        endInsertColumns();
    } else if (after < before) {
        beginRemoveColumns({}, after, before - 1);
        m_rig = rig;
        m_report = report;
        endRemoveColumns();
    }
    m_rig = rig;
    m_report = report;
    order();
    if (after > 0) {
        Q_EMIT dataChanged(index(0, 0), index(rowCount() - 1, after - 1));
        Q_EMIT headerDataChanged(Qt::Horizontal, 0, after - 1);
    }
}

void MatchBoardModel::setWords(const std::map<std::string, words::DialWords>& dials,
                               bool isTechnical) {
    m_dials = dials;
    m_isTechnical = isTechnical;
    if (columnCount() == 0) return;
    Q_EMIT dataChanged(index(0, 0), index(rowCount() - 1, columnCount() - 1));
    Q_EMIT headerDataChanged(Qt::Vertical, 0, rowCount() - 1);
}

int MatchBoardModel::rowCount(const QModelIndex& parent) const {
    return parent.isValid() ? 0 : static_cast<int>(match::kQualityCount);
}

int MatchBoardModel::columnCount(const QModelIndex& parent) const {
    return parent.isValid() ? 0 : static_cast<int>(m_report.cameras.size());
}

QVariant MatchBoardModel::referenceData(Quality quality,
                                        const match::CameraMatch& match,
                                        int role) const {
    if (role == IsReferenceRole) return true;
    if (role != Qt::DisplayRole && role != Qt::AccessibleTextRole) return {};
    const auto& fit = match.differences.fit;
    if (!fit) return quality == Quality::Exposure ? tr("not measured") : QString();
    switch (quality) {
        case Quality::Exposure:
            return tr("grey at %1 %")
                .arg(withError(100.0 * fit->greySignal(0.0),
                               100.0 * match::signalErrorAt(*fit, fit->luminanceStops),
                               1));
        case Quality::WhiteBalance: {
            // One mired is K² / 1e6 kelvin.
            const double kelvin = 1e6 / fit->white.mired.value();
            const double error =
                kelvin * kelvin * 1e-6 * (match::kMiredPerStop * ratioError(*fit) + 0.1);
            return tr("neutral at %1 K").arg(withError(kelvin, error, 0));
        }
        case Quality::Tint:
            return tr("Duv %1 ± %2")
                .arg(plain(base::signedFixed(fit->white.duv.value(), 4)))
                .arg(std::max(0.5 * match::kDuvPerStop * ratioError(*fit), 0.0001), 0, 'f', 4);
        case Quality::Contrast:
            if (fit->isCurveAssumed) return tr("curve assumed");
            return tr("%1 % per stop")
                .arg(withError(
                    100.0 * fit->curve.slopeAt(0.0), 100.0 * match::slopeErrorAt(*fit, 0.0), 1));
        case Quality::BlackLevel:
            if (fit->isCurveAssumed) return QString(u"–"_s);
            return tr("black at %1 %")
                .arg(
                    withError(100.0 * fit->greySignal(kBlackStops),
                              100.0 * match::signalErrorAt(*fit, kBlackStops + fit->luminanceStops),
                              1));
        case Quality::SkinLevel:
        case Quality::SkinHue:
            return skinWords(quality, match);
        default:
            return QString(u"–"_s);
    }
}

QVariant MatchBoardModel::cellData(Quality quality,
                                   const match::CameraMatch& match,
                                   int role) const {
    const match::Difference& difference = match.differences.judged(quality);
    // Ratios are drawn as they are judged: by their logarithm.
    const bool isRatio = match::isRatio(quality);
    const auto place = [isRatio](double value) {
        return isRatio ? std::log2(std::max(value, 1e-3)) : value;
    };
    const double span = kGaugeSpans * place(isRatio ? 1.0 + difference.accept : difference.accept);
    switch (role) {
        case Qt::DisplayRole:
            if (!difference.value && isSkin(quality) && match.skin.empty())
                return match.facesSeen > 0 ? tr("who is who is open") : tr("no face found");
            if (!difference.value && difference.isBeyondChart) return tr("not told by this chart");
            return difference.value ? plain(words::cellText(quality, difference).value)
                                    : tr("unknown");
        case IsQuietRole:
            return !difference.value && (isSkin(quality) || difference.isBeyondChart);
        case WordsRole: {
            const auto dials = m_dials.find(match.cameraId);
            if (m_isTechnical || dials == m_dials.end()) return QString();
            return fromCore(words::shooterWords(quality, difference, dials->second));
        }
        case UncertaintyTextRole:
            return difference.value ? plain(words::cellText(quality, difference).uncertainty)
                                    : QString();
        case ValueRole:
            return difference.value ? QVariant(*difference.value) : QVariant();
        case VerdictRole:
            return static_cast<int>(difference.verdict);
        case PositionRole:
            return difference.value
                       ? QVariant(std::clamp(place(*difference.value) / span, -1.0, 1.0))
                       : QVariant();
        case GoodRole:
            return place(isRatio ? 1.0 + difference.good : difference.good) / span;
        case AcceptRole:
            return 1.0 / kGaugeSpans;
        case IsReferenceRole:
            return false;
        case Qt::AccessibleTextRole:
            return QString(cellData(quality, match, WordsRole).toString() + u' ' +
                           tr("%1 %2, %3")
                               .arg(cellWords(quality, difference),
                                    plain(words::cellText(quality, difference).unit),
                                    verdictWords(difference.verdict)))
                .trimmed();
        case Qt::ToolTipRole:
            if (!difference.value) return fromCore(words::inEnglish(difference.reason));
            return tr("%1 %2, %3 (good to %4, near to %5)")
                .arg(cellWords(quality, difference),
                     plain(words::cellText(quality, difference).unit),
                     verdictWords(difference.verdict))
                .arg(difference.good)
                .arg(difference.accept);
        default:
            return {};
    }
}

QVariant MatchBoardModel::data(const QModelIndex& index, int role) const {
    if (!index.isValid() || index.row() >= rowCount() || index.column() >= columnCount()) return {};
    const match::CameraMatch& match = m_report.cameras[static_cast<std::size_t>(index.column())];
    const Quality quality = qualityAt(index.row());
    if (role == GroupStartRole) return headerData(index.row(), Qt::Vertical, role);
    return match.isReference ? referenceData(quality, match, role) : cellData(quality, match, role);
}

QVariant MatchBoardModel::headerData(int section, Qt::Orientation orientation, int role) const {
    if (orientation == Qt::Vertical) {
        if (section < 0 || section >= rowCount()) return {};
        const Quality quality = qualityAt(section);
        if (role == UnitRole) return plain(words::cellText(quality, {}).unit);
        if (role == GroupStartRole)
            return !m_isWorstFirst && isSkin(quality) && section > 0 &&
                   !isSkin(qualityAt(section - 1));
        if (role == Qt::DisplayRole)
            return fromCore(m_isTechnical ? words::qualityTitle(quality)
                                          : words::shooterTitle(quality));
        // A shooter's titles stand alone; what they mean shows on them.
        if (role == HelpRole && !m_isTechnical) return QString();
        if (role == HelpRole || role == Qt::ToolTipRole)
            return fromCore(m_isTechnical ? words::qualityHelp(quality)
                                          : words::shooterHelp(quality));
        return {};
    }
    if (section < 0 || section >= columnCount()) return {};
    const rig::Camera* camera =
        rig::findCamera(m_rig, m_report.cameras[static_cast<std::size_t>(section)].cameraId);
    if (camera == nullptr) return {};
    if (role == Qt::DisplayRole) return plain(camera->role);
    if (role == LetterRole) return plain(camera->letter);
    if (role == HelpRole || role == Qt::ToolTipRole)
        return tr("%1 mm").arg(camera->lens.focalLengthMm) + u" · "_s +
               exposureText(camera->settings);
    return {};
}

}  // namespace rigmatch::app
