// SPDX-License-Identifier: GPL-3.0-or-later
#include <numeric>
#include <random>

#include "framing/framing_findings.h"
#include "framing/framing_look.h"
#include "sim/camera_model.h"
#include "sim/clock_bench.h"
#include "sim/plan_scene.h"
#include "support/qt_test.h"
#include "support/samples.h"
#include "support/test_list.h"

using namespace rigmatch;

namespace {

/// The clock bench behind a lens that scatters `glare` of all its light evenly over the picture
/// (veiling glare as ISO 9358 means it, from memory), people and light a little otherwise by seed.
rig::FramingReading readingThrough(double glare, unsigned seed) {
    std::mt19937 random(seed);
    std::uniform_real_distribution<double> uniform(-1.0, 1.0);
    rig::Rig rig = sim::clockBenchRig();
    rig::SetPlan plan = sim::clockBenchPlan();
    for (rig::PlanObject& object : plan.objects) {
        if (object.kind == rig::PlanKind::Person) object.xMetres += 0.08 * uniform(random);
        if (object.kind == rig::PlanKind::Light) object.kelvin += 200.0 * uniform(random);
    }
    rig.plan = plan;
    sim::View view = *sim::planView(rig, rig.cameras[0]);
    view.width = 960;
    view.height = 540;
    sim::RenderOptions options;
    options.lampRays = 1;
    image::Frame light = *sim::render(sim::sceneOf(plan), view, {}, options);
    for (std::vector<float>& channel : light.channels) {
        const float mean = std::accumulate(channel.begin(), channel.end(), 0.0F) /
                           static_cast<float>(channel.size());
        for (float& value : channel)
            value = static_cast<float>((1.0 - glare) * value + glare * mean);
    }
    rig::Camera camera = rig.cameras[0];
    camera.simulated->sensitivityStops += 0.1 * uniform(random);
    const auto frame =
        image::codedFromSignal(sim::CameraModel(camera).develop(light, seed), {}, 10, 1);
    framing::FramingLook look = *framing::FramingLook::create(face::FaceEffort::Quick);
    look.take(frame, framing::FramingLook::Moment::Main);
    return look.reading();
}

base::Verdict sinceVerdict(const rig::FramingReading& now, const rig::FramingReading& then) {
    framing::FramedCamera camera;
    camera.id = "a";
    camera.reading = &now;
    camera.width = 960;
    camera.height = 540;
    camera.darkestBefore = then.darkest;
    for (const base::Finding& finding : framing::framingFindings({camera}, {})) {
        if (finding.quantity == "veilSince") return finding.verdict;
    }
    return base::Verdict::Unknown;
}

}  // namespace

class TestVeil : public QObject {
    Q_OBJECT
private Q_SLOTS:
    /// A lens that got dirty since the last take against one that did not, in other light and with
    /// people who moved.
    void aVeilSinceTheLastTakeIsTold() {
        const int count = support::isFullSample() ? 20 : 2;
        for (int i = 0; i < count; ++i) {
            const auto seed = static_cast<unsigned>(70 + 3 * i);
            const rig::FramingReading before = readingThrough(0.005, seed);
            const rig::FramingReading clean = readingThrough(0.005, seed + 1);
            const rig::FramingReading dirty = readingThrough(0.08, seed + 2);
            if (qEnvironmentVariableIsSet("RIGMATCH_TELL"))
                qInfo("%.4f, clean %.4f, dirty %.4f ± %.4f",
                      before.darkest->value,
                      clean.darkest->value,
                      dirty.darkest->value,
                      dirty.darkest->uncertainty);
            QCOMPARE(sinceVerdict(clean, before), base::Verdict::Good);
            const base::Verdict verdict = sinceVerdict(dirty, before);
            QVERIFY(verdict == base::Verdict::Near || verdict == base::Verdict::Off);
        }
    }
};

RIG_TEST(TestVeil);
#include "test_veil.moc"
