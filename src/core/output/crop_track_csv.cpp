// SPDX-License-Identifier: GPL-3.0-or-later
#include "output/crop_track_csv.h"

#include <string>

#include "base/format.h"

namespace rigmatch::output {
namespace {

using base::fixed;

}  // namespace

std::string cropTrackCsv(const jobs::CropTrack& track) {
    std::string text = "seconds,leftPx,topPx,widthPx,heightPx,seen\n";
    for (const jobs::CropMoment& moment : track.moments)
        text += fixed(moment.seconds, 3) + "," + fixed(moment.left, 1) + "," +
                fixed(moment.top, 1) + "," + std::to_string(track.width) + "," +
                std::to_string(track.height) + "," + (moment.isSeen ? "1" : "0") + "\n";
    return text;
}

}  // namespace rigmatch::output
