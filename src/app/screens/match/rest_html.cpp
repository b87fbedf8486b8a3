// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/screens/match/rest_html.h"

#include <QStringList>
#include <algorithm>

#include "app/screens/match/match_controller.h"
#include "app/services/texts.h"
#include "words/english.h"
#include "words/match_text.h"
#include "words/rest_reasons.h"

namespace rigmatch::app {

using namespace Qt::StringLiterals;

QString notesHtml(const MatchController& controller) {
    const match::MatchReport& report = controller.report();
    // A note that holds for several cameras is said once.
    std::vector<std::pair<std::string, QStringList>> notes;
    for (const match::CameraMatch& match : report.cameras) {
        std::vector<std::string> lines;
        for (const base::Text& note : match.differences.notes)
            lines.push_back(words::inEnglish(note));
        for (const match::LeftOver& left : match.plan.leftOver)
            lines.push_back(words::inEnglish(left.text));
        for (const std::string& line : lines) {
            auto known = std::find_if(
                notes.begin(), notes.end(), [&](const auto& note) { return note.first == line; });
            if (known == notes.end()) known = notes.insert(notes.end(), {line, {}});
            known->second << plain(rig::letterOf(controller.rig(), match.cameraId));
        }
    }
    QString text;
    if (!report.targetProblem.empty())
        text += u"<p style='margin:0'><span style='color:#deaa54'>△</span> %1</p>"_s.arg(
            fromCore(report.targetProblem).toHtmlEscaped());
    if (const std::string light = words::commonLightText(report); !light.empty())
        text += u"<p style='margin:0'><span style='color:#deaa54'>△</span> %1</p>"_s.arg(
            fromCore(light).toHtmlEscaped());
    for (const auto& [line, letters] : notes)
        text += u"<p style='margin:0'><span style='color:#deaa54'>△</span> %1: %2</p>"_s.arg(
            letters.join(u", "_s), fromCore(line).toHtmlEscaped());
    return text;
}

QString restHtml(const MatchController& controller, bool hasTurns) {
    const auto& reasons = controller.rest();
    QString text = u"<p style='margin:0 0 4px 0'><b>%1</b></p>"_s.arg(
        fromCore(words::restHeadline(reasons, hasTurns)).toHtmlEscaped());
    for (const words::RestReason& rest : reasons) {
        const rig::Camera* camera = rig::findCamera(controller.rig(), rest.cameraId);
        text += u"<p style='margin:0 0 2px 0'><b>%1</b>&nbsp; %2: %3</p>"_s.arg(
            camera != nullptr ? plain(camera->letter) : QString(),
            fromCore(controller.titleOf(rest.quality)).toHtmlEscaped(),
            fromCore(rest.text).toHtmlEscaped());
    }
    return text;
}

}  // namespace rigmatch::app
