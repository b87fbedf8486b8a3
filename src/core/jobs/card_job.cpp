// SPDX-License-Identifier: GPL-3.0-or-later
#include "jobs/card_job.h"

#include "card/printed_card.h"

namespace rigmatch::jobs {

base::Result<void> writePrintedCard(const std::filesystem::path& file, const std::string& paper) {
    if (paper != "a4" && paper != "letter") {
        return base::fail(base::ErrorCode::OutOfRange,
                          base::say("cardJob.noSuchPaper"),
                          base::say("cardJob.givenLetterMade", {{"paper", paper}}),
                          base::say("cardJob.chooseOneTwo"));
    }
    return card::writeCard(file, paper == "a4" ? card::Paper::A4 : card::Paper::Letter);
}

}  // namespace rigmatch::jobs
