// SPDX-License-Identifier: GPL-3.0-or-later
#include "app/screens/match/rest_html.h"

#include "app/screens/match/match_controller.h"
#include "app/services/texts.h"
#include "words/rest_reasons.h"

namespace rigmatch::app {

using namespace Qt::StringLiterals;

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
