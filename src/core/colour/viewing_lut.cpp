// SPDX-License-Identifier: GPL-3.0-or-later
#include "colour/viewing_lut.h"

#include <OpenColorIO/OpenColorIO.h>

#include <algorithm>
#include <fstream>
#include <map>
#include <mutex>
#include <optional>

#include "colour/claimed_numbers.h"

namespace rigmatch::colour {
namespace {

namespace OCIO = OCIO_NAMESPACE;

}  // namespace

struct ViewingLut::State {
    OCIO::ConstCPUProcessorRcPtr processor;
};

namespace {

/// What a file was when it was read; another time or size means another table.
struct Stamp {
    std::filesystem::file_time_type time;
    std::uintmax_t size = 0;

    bool operator==(const Stamp&) const = default;
};

constexpr std::size_t kMostKept = 16;

/// Tables read before, so that asking again costs nothing.
class Kept {
public:
    template <class State>
    std::shared_ptr<const State> find(const std::string& path, const Stamp& stamp) {
        const std::lock_guard lock(m_mutex);
        const auto found = m_states.find(path);
        if (found == m_states.end() || !(found->second.first == stamp)) return nullptr;
        return std::static_pointer_cast<const State>(found->second.second);
    }
    void keep(const std::string& path, const Stamp& stamp, std::shared_ptr<const void> state) {
        const std::lock_guard lock(m_mutex);
        if (m_states.size() >= kMostKept) m_states.clear();
        m_states[path] = {stamp, std::move(state)};
    }

private:
    std::mutex m_mutex;
    std::map<std::string, std::pair<Stamp, std::shared_ptr<const void>>> m_states;
};

Kept& kept() {
    static Kept kept;
    return kept;
}

/// A table that says it holds more than its file has room for is damaged; the library would make
/// room for it all the same.
std::optional<base::Error> overstated(const std::filesystem::path& path, std::uintmax_t size) {
    constexpr std::uintmax_t kMostRead = 64U << 20U;  // bytes; no table says its size behind them
    std::string content(static_cast<std::size_t>(std::min(size, kMostRead)), '\0');
    std::ifstream file(path, std::ios::binary);
    file.read(content.data(), static_cast<std::streamsize>(content.size()));
    content.resize(static_cast<std::size_t>(file.gcount()));
    constexpr double kLeastBytes = 2.0;  // a digit, and what parts it from the next
    const double room = (static_cast<double>(size) + 1.0) / kLeastBytes;
    constexpr double kBeyondAll = 1e15;
    const double said = std::min(claimedNumbers(content), kBeyondAll);
    if (said <= room) return std::nullopt;
    return base::Error{base::ErrorCode::UnsupportedFormat,
                       base::say("viewingLut.cannotReadLut", {{"name", path.filename().string()}}),
                       base::say("viewingLut.overstated",
                                 {{"said", base::Number{said}}, {"room", base::Number{room}}}),
                       base::say("viewingLut.useCubeClf")};
}

/// One configuration for all files: making one takes longer than reading most tables. It keeps no
/// processors, since the library would give that of a file that has changed since.
const OCIO::ConstConfigRcPtr& rawConfig() {
    static const OCIO::ConstConfigRcPtr kConfig = [] {
        const OCIO::ConfigRcPtr config = OCIO::Config::CreateRaw()->createEditableCopy();
        config->setProcessorCacheFlags(OCIO::PROCESSOR_CACHE_OFF);
        return config;
    }();
    return kConfig;
}

}  // namespace

base::Result<ViewingLut> ViewingLut::read(const std::filesystem::path& path) {
    const std::string name = path.filename().string();
    std::error_code problem;
    if (!std::filesystem::is_regular_file(path, problem)) {
        return base::fail(base::ErrorCode::NotFound,
                          base::say("viewingLut.cannotReadLut", {{"name", name}}),
                          base::say("viewingLut.thereNoSuch", {{"path", path.string()}}),
                          base::say("viewingLut.chooseFileAgain"));
    }
    const Stamp stamp{std::filesystem::last_write_time(path, problem),
                      std::filesystem::file_size(path, problem)};
    if (auto state = kept().find<State>(path.string(), stamp)) {
        ViewingLut lut;
        lut.m_state = std::move(state);
        return lut;
    }
    if (const auto damaged = overstated(path, stamp.size)) return tl::unexpected(*damaged);
    try {
        // The library would give its own copy of a file that has changed since.
        OCIO::ClearAllCaches();
        auto transform = OCIO::FileTransform::Create();
        transform->setSrc(path.string().c_str());
        transform->setInterpolation(OCIO::INTERP_BEST);
        // Of a collection of decision lists the first one.
        const std::string suffix = path.extension().string();
        if (suffix == ".ccc" || suffix == ".cdl") transform->setCCCId("0");
        auto state = std::make_shared<State>();
        state->processor = rawConfig()->getProcessor(transform)->getDefaultCPUProcessor();
        ViewingLut lut;
        lut.m_state = state;
        kept().keep(path.string(), stamp, state);
        return lut;
    } catch (const std::exception& error) {
        return base::fail(base::ErrorCode::UnsupportedFormat,
                          base::say("viewingLut.cannotReadLut", {{"name", name}}),
                          base::asIs(error.what()),
                          base::say("viewingLut.useCubeClf"));
    }
}

std::array<double, 3> ViewingLut::apply(const std::array<double, 3>& signal) const {
    std::array<float, 3> pixel{static_cast<float>(signal[0]),
                               static_cast<float>(signal[1]),
                               static_cast<float>(signal[2])};
    m_state->processor->applyRGB(pixel.data());
    return {double(pixel[0]), double(pixel[1]), double(pixel[2])};
}

void ViewingLut::apply(std::array<std::vector<float>, 3>& planes) const {
    if (planes[0].empty()) return;
    OCIO::PlanarImageDesc image(planes[0].data(),
                                planes[1].data(),
                                planes[2].data(),
                                nullptr,
                                static_cast<long>(planes[0].size()),
                                1);
    m_state->processor->apply(image);
}

}  // namespace rigmatch::colour
