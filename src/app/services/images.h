// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QImage>

#include "jobs/picture_job.h"

namespace rigmatch::app {

/// A frame for the screen, with pixels of its own.
[[nodiscard]] inline QImage imageOf(const jobs::Picture& picture) {
    return QImage(picture.rgb.data(),
                  picture.width,
                  picture.height,
                  qsizetype{3} * picture.width,
                  QImage::Format_RGB888)
        .copy();
}

}  // namespace rigmatch::app
