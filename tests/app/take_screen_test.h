// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QListView>

#include "support/app_fixture.h"

namespace rigmatch::support {

/// What tests of the screen Test take begin with.
class TakeScreenTest : public QObject {
protected:
    std::unique_ptr<AppFixture> m_app;

    /// The demo's cameras without any take.
    void startEmpty() {
        rig::Rig rig = m_app->document.rig();
        rig.takes.clear();
        rig.sources = {};
        m_app->document.start(rig);
    }

    /// The demo's first camera alone has a clip: choices that measure all again need no more.
    void keepOneClip() {
        rig::Rig rig = m_app->document.rig();
        for (rig::Take& take : rig.takes)
            while (take.shots.size() > 1) take.shots.pop_back();
        m_app->document.start(rig);
    }

    void chooseShot(int row) {
        auto* list = support::child<QListView>(m_app->window.get(), "shotList");
        list->setCurrentIndex(list->model()->index(row, 0));
    }

    [[nodiscard]] bool openTestTake() {
        m_app = std::make_unique<AppFixture>();
        m_app->openDemo();
        return m_app->show("testTake");
    }
};

}  // namespace rigmatch::support
