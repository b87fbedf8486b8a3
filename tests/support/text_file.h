// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QFile>
#include <QTemporaryDir>
#include <string>

namespace rigmatch::support {

/// Writes `text` under `name` in a test's folder; gives the path, or nothing where it failed.
inline std::string writeText(const QTemporaryDir& folder,
                             const char* name,
                             const QByteArray& text) {
    QFile file(folder.filePath(QString::fromLatin1(name)));
    if (!file.open(QIODevice::WriteOnly)) return {};
    file.write(text);
    return file.fileName().toStdString();
}

}  // namespace rigmatch::support
