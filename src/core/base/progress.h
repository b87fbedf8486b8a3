// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <atomic>
#include <functional>
#include <memory>

#include "base/text.h"

namespace rigmatch::base {

/// How long work tells where it is and hears that it should stop. Copies share the stop flag.
/// report() is called on the working thread; the receiver passes it on to its own.
class Progress {
public:
    using Report = std::function<void(double fraction, const Text& stage)>;

    /// Work that nobody watches.
    Progress() = default;
    explicit Progress(Report report) : m_report(std::move(report)) {}

    /// `fraction` is 0..1 of this piece of work.
    void report(double fraction, const Text& stage) const {
        if (m_report) m_report(m_from + (m_to - m_from) * fraction, stage);
    }

    void cancel() const { m_isCancelled->store(true); }
    [[nodiscard]] bool isCancelled() const { return m_isCancelled->load(); }

    /// A part of this work, reporting into `from`..`to` of the whole.
    [[nodiscard]] Progress part(double from, double to) const {
        Progress inner = *this;
        inner.m_from = m_from + (m_to - m_from) * from;
        inner.m_to = m_from + (m_to - m_from) * to;
        return inner;
    }

private:
    Report m_report;
    double m_from = 0.0;
    double m_to = 1.0;
    std::shared_ptr<std::atomic<bool>> m_isCancelled = std::make_shared<std::atomic<bool>>(false);
};

}  // namespace rigmatch::base
