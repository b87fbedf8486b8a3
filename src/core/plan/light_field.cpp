// SPDX-License-Identifier: GPL-3.0-or-later
#include "plan/light_field.h"

#include <Eigen/Geometry>
#include <algorithm>
#include <cmath>
#include <numbers>
#include <optional>

#include "base/luma.h"
#include "colour/primaries.h"
#include "colour/white_point.h"
#include "optics/light.h"

namespace rigmatch::plan {
namespace {

using rig::PlanKind;
using rig::PlanObject;
using rig::SetPlan;

constexpr double kReferenceKelvin = 5600.0;
constexpr int kDiscPoints = 12;
constexpr int kPanePoints = 4;         // per side
constexpr double kFarthestWall = 3.5;  // m; beyond it a beam is the room's light
constexpr double kLargestDisc = 1.5;   // m, radius
constexpr double kDiscStops = 0.4;     // what paint and angle make of it (own estimate)
const Vec kLuma(base::kLumaBt709.data());

double luminanceOf(const Vec& colour) { return kLuma.dot(colour); }

/// Points spread evenly over a disc (golden-angle spiral).
std::vector<SourcePoint> discPoints(const Vec& middle, const Vec& axis, double radius) {
    const Vec up = std::abs(axis.y()) > 0.95 ? Vec(1, 0, 0) : Vec(0, 1, 0);
    const Vec across = axis.cross(up).normalized();
    const Vec along = across.cross(axis);
    std::vector<SourcePoint> points;
    for (int i = 0; i < kDiscPoints; ++i) {
        const double r = radius * std::sqrt((i + 0.5) / kDiscPoints);
        const double angle = i * std::numbers::pi * (3.0 - std::sqrt(5.0));
        points.push_back(
            {middle + r * (std::cos(angle) * across + std::sin(angle) * along), 1.0 / kDiscPoints});
    }
    return points;
}

std::vector<SourcePoint> panePoints(const PlanObject& pane) {
    const Vec across = facingVector(pane.facingDegrees + 90.0);
    std::vector<SourcePoint> points;
    for (int i = 0; i < kPanePoints * kPanePoints; ++i) {
        const int column = i % kPanePoints, row = i / kPanePoints;
        const double u = (column + 0.5) / kPanePoints - 0.5;
        const double v = (row + 0.5) / kPanePoints;
        points.push_back(
            {placeOf(pane) + u * pane.widthMetres * across + Vec(0.0, v * pane.tallMetres, 0.0),
             1.0 / (kPanePoints * kPanePoints)});
    }
    return points;
}

Source lampSource(const PlanObject& light) {
    const optics::Modifier& modifier = optics::modifierOf(light.modifier);
    Source source;
    source.objectId = light.id;
    source.position = placeOf(light);
    source.axis = (aimOf(light) - source.position).normalized();
    source.candela = light.luxAtOneMetre * std::exp2(lampLossStops(light));
    double beam = modifier.beamDegrees > 0.0 ? modifier.beamDegrees : light.beamDegrees;
    if (light.hasGrid) beam = std::min(beam, optics::kGridBeamDegrees);
    source.halfBeamDegrees = 0.5 * beam;
    source.isAllRound = beam >= 179.0;
    source.radiusMetres = 0.5 * light.sourceMetres;
    source.kelvin = light.kelvin;
    source.tintDuv = light.tintDuv;
    source.isMeantToDiffer = light.isMeantToDiffer;
    source.colour = lightColour(light.kelvin, light.tintDuv);
    source.uncertaintyStops = std::hypot(0.15, modifier.spreadStops, light.hasGrid ? 0.3 : 0.0);
    source.points = discPoints(source.position, source.axis, source.radiusMetres);
    return source;
}

/// How much of what a spot sees of the room is covered by flags, cloths and boards: view factor of
/// a surface element to each panel, its sum over small pieces (docs/sources.md, 11.12). What a
/// board gives instead is a source of its own; black cloth gives next to nothing.
double screenedShare(const SetPlan& plan,
                     const Vec& point,
                     const Vec& normal,
                     const std::string& exceptId) {
    constexpr int kPieces = 10;  // along each side
    constexpr double kMost = 0.95;
    double share = 0.0;
    for (const PlanObject& panel : plan.objects) {
        if (panel.kind != PlanKind::Flag && panel.kind != PlanKind::Bounce) continue;
        if (panel.id == exceptId) continue;
        const Vec across = facingVector(panel.facingDegrees + 90.0);
        const Vec facing = facingVector(panel.facingDegrees);
        const double piece = panel.widthMetres * panel.tallMetres / (kPieces * kPieces);
        for (int i = 0; i < kPieces * kPieces; ++i) {
            const int column = i % kPieces, row = i / kPieces;
            const double u = (column + 0.5) / kPieces - 0.5;
            const double v = (row + 0.5) / kPieces;
            const Vec to = placeOf(panel) + u * panel.widthMetres * across +
                           Vec(0.0, v * panel.tallMetres, 0.0) - point;
            const double distance = std::max(to.norm(), 0.05);
            const double mine = normal.dot(to) / distance;
            if (mine <= 0.0) continue;
            const double theirs = std::abs(facing.dot(to)) / distance;
            share += mine * theirs * piece / (std::numbers::pi * distance * distance);
        }
    }
    return std::min(share, kMost);
}

/// A matt pane that gives off `lumensPerSquareMetre`.
Source paneSource(const PlanObject& pane, double lumensPerSquareMetre) {
    Source source;
    source.objectId = pane.id;
    source.position = placeOf(pane) + Vec(0.0, 0.5 * pane.tallMetres, 0.0);
    source.axis = facingVector(pane.facingDegrees);
    source.candela = lumensPerSquareMetre / std::numbers::pi * pane.widthMetres * pane.tallMetres;
    source.halfBeamDegrees = 60.0;
    source.radiusMetres = std::sqrt(pane.widthMetres * pane.tallMetres / std::numbers::pi);
    source.points = panePoints(pane);
    return source;
}

Source windowSource(const PlanObject& window) {
    Source source = paneSource(window, window.luxAtGlass * std::exp2(-window.filmStops));
    source.kelvin = window.kelvin;
    source.colour = lightColour(window.kelvin, 0.0);
    source.uncertaintyStops = 0.7;  // clouds (common practice: it changes all day)
    return source;
}

/// Light of a beam per candela on its axis, lm: its intensity summed over the half space.
double beamFactor(double halfBeamDegrees) {
    double sum = 0.0;
    for (int degree = 0; degree < 90; ++degree) {
        const double angle = (degree + 0.5) * std::numbers::pi / 180.0;
        const double share = (degree + 0.5) / halfBeamDegrees;
        sum += std::exp2(-share * share) * std::sin(angle);
    }
    return 2.0 * std::numbers::pi * sum * std::numbers::pi / 180.0;
}

/// A head, or what it is aimed at, stands in the beam before the wall.
bool lightsSomebody(const SetPlan& plan, const Source& lamp, double wallMetres) {
    return std::any_of(plan.objects.begin(), plan.objects.end(), [&](const PlanObject& person) {
        if (person.kind != PlanKind::Person) return false;
        const Vec way = headOf(person).centre - lamp.position;
        return lamp.axis.dot(way) < wallMetres &&
               angleBetween(lamp.axis, way) < lamp.halfBeamDegrees;
    });
}

/// The disc that a lamp lights on the wall it is turned into, if it is.
std::optional<Source> wallDisc(const SetPlan& plan,
                               const Obstacles& obstacles,
                               const Source& lamp) {
    if (lamp.isAllRound) return std::nullopt;
    const SurfaceHit wall = surfaceHit(plan, lamp.position, lamp.axis);
    if (wall.isWindow || wall.distance > kFarthestWall || lightsSomebody(plan, lamp, wall.distance))
        return std::nullopt;
    // A board or flag before it catches the light; boards are sources of their own.
    if (obstacles.isBlocked(lamp.position, wall.point, {lamp.objectId, wall.objectId}))
        return std::nullopt;
    Source disc = lamp;
    disc.isOffWall = true;
    disc.surface = wall.name;
    disc.axis = wall.normal;
    disc.position = wall.point + 0.02 * wall.normal;
    // A matt disc of that flux: I = rho flux / pi on its axis (Lambert), half at 60 degrees.
    disc.candela = wall.reflectance * lamp.flux() / std::numbers::pi;
    disc.halfBeamDegrees = 60.0;
    const double beam = std::min(lamp.halfBeamDegrees, 60.0) * std::numbers::pi / 180.0;
    disc.radiusMetres = std::min(lamp.radiusMetres + wall.distance * std::tan(beam), kLargestDisc);
    disc.uncertaintyStops = std::hypot(lamp.uncertaintyStops, kDiscStops);
    disc.points = discPoints(disc.position, disc.axis, disc.radiusMetres);
    // What would lie beyond a corner stays in the room.
    for (SourcePoint& point : disc.points)
        point.position = point.position.cwiseMax(Vec::Constant(0.02))
                             .cwiseMin(Vec(plan.widthMetres, plan.heightMetres, plan.depthMetres) -
                                       Vec::Constant(0.02));
    return disc;
}

bool shines(const PlanObject& object) {
    if (object.kind == PlanKind::Light) return object.isOn && object.dimPercent > 0.0;
    return object.kind == PlanKind::Window && !object.isBlackedOut && object.luxAtGlass > 0.0;
}

}  // namespace

Vec lightColour(double kelvin, double tintDuv) {
    const auto d65 = colour::whitePointOf(colour::kD65);
    const double mired = d65 ? d65->mired.value() : 153.8;
    const double duv = d65 ? d65->duv.value() : 0.0032;
    const auto white = colour::chromaticityOf(colour::WhitePoint{
        base::Mired(std::clamp(mired + 1e6 / kelvin - 1e6 / kReferenceKelvin, 20.0, 900.0)),
        base::Duv(duv + tintDuv)});
    if (!white) return Vec::Ones();
    const Vec rgb = (colour::xyzToRgb(colour::kBt709) * colour::xyzOf(*white)).cwiseMax(0.005);
    return rgb / luminanceOf(rgb);
}

double lampLossStops(const PlanObject& light) {
    double stops = -optics::modifierOf(light.modifier).lossStops;
    if (light.hasGrid) stops -= optics::kGridLossStops;
    // A wider beam spreads the same light thinner.
    const double beam = optics::modifierOf(light.modifier).beamDegrees;
    if (beam > light.beamDegrees) {
        stops += std::log2(beamFactor(0.5 * light.beamDegrees) / beamFactor(0.5 * beam));
    }
    return stops + optics::dimmerChange(std::max(light.dimPercent, 0.01)).value();
}

double Source::intensityToward(const Vec& direction) const {
    if (isAllRound) return candela;
    const double angle = angleBetween(axis, direction);
    if (angle >= 90.0) return 0.0;
    const double share = angle / halfBeamDegrees;
    return candela * std::exp2(-share * share);
}

double Source::flux() const {
    return candela * (isAllRound ? 4.0 * std::numbers::pi : beamFactor(halfBeamDegrees));
}

double SpotLight::luxOf(const std::string& objectId) const {
    double lux = 0.0;
    for (const Contribution& one : sources) lux += one.objectId == objectId ? one.lux : 0.0;
    return lux;
}

LightField::LightField(const SetPlan& plan) : m_plan(plan), m_obstacles(plan) {
    for (const PlanObject& object : plan.objects) {
        if (!shines(object)) continue;
        m_sources.push_back(object.kind == PlanKind::Light ? lampSource(object)
                                                           : windowSource(object));
    }
    const double floorArea = plan.widthMetres * plan.depthMetres;
    const double wallArea = 2.0 * plan.heightMetres * (plan.widthMetres + plan.depthMetres);
    const double area = 2.0 * floorArea + wallArea;
    const double reflectance = (floorArea * (plan.floorReflectance + plan.ceilingReflectance) +
                                wallArea * plan.wallReflectance) /
                               area;
    addWallDiscs();
    // Of a lamp that is turned into a wall the room has what its disc leaves.
    Vec flux = Vec::Zero();
    for (const Source& source : m_sources) {
        const Source* disc = wallDiscOf(source.objectId);
        if (source.isOffWall || disc == nullptr)
            flux += (source.isOffWall ? std::numbers::pi * source.candela : source.flux()) *
                    source.colour;
    }
    const Vec room = flux * reflectance / (area * (1.0 - reflectance));
    m_roomLux = luminanceOf(room);
    if (m_roomLux > 0.0) m_roomColour = room / m_roomLux;
    addBoards();
}

void LightField::addWallDiscs() {
    std::vector<Source> discs;
    for (const Source& lamp : m_sources) {
        const PlanObject* object = rig::findObject(m_plan, lamp.objectId);
        if (object == nullptr || object->kind != PlanKind::Light) continue;
        if (auto disc = wallDisc(m_plan, m_obstacles, lamp)) discs.push_back(std::move(*disc));
    }
    m_sources.insert(m_sources.end(), discs.begin(), discs.end());
}

void LightField::addBoards() {
    std::vector<Source> boards;
    for (const PlanObject& board : m_plan.objects) {
        if (board.kind != PlanKind::Bounce) continue;
        const Vec middle = placeOf(board) + Vec(0.0, 0.5 * board.tallMetres, 0.0);
        const SpotLight caught = at(middle, facingVector(board.facingDegrees), board.id);
        Source source = paneSource(board, caught.totalLux * board.reflectance);
        source.colour = caught.colour;
        source.uncertaintyStops = 0.3;
        boards.push_back(std::move(source));
    }
    m_sources.insert(m_sources.end(), boards.begin(), boards.end());
}

SpotLight LightField::at(const Vec& point, const Vec& normal, const std::string& exceptId) const {
    SpotLight light;
    const PlanObject* owner = rig::findObject(m_plan, exceptId);
    const bool isOnFace = owner != nullptr && owner->kind == PlanKind::Person;
    const Head head = isOnFace ? headOf(*owner) : Head{};
    light.roomLux = m_roomLux * (1.0 - screenedShare(m_plan, point, normal, exceptId));
    light.totalLux = light.roomLux;
    Vec colour = light.roomLux * m_roomColour;
    for (const Source& source : m_sources) {
        if (source.objectId == exceptId) continue;
        Contribution given{source.objectId, 0.0, angleBetween(normal, source.position - point)};
        int open = 0;
        for (const SourcePoint& from : source.points) {
            const Vec toSource = from.position - point;
            const double distance = std::max(toSource.norm(), 0.02);
            const double facing = normal.dot(toSource) / distance;
            if (facing <= 0.0) continue;
            const double intensity = source.intensityToward(-toSource);
            if (intensity <= 0.0) continue;
            if (isOnFace && isBehindNose(head, point + 0.002 * normal, from.position)) continue;
            if (m_obstacles.isBlocked(
                    point + 0.004 * normal, from.position, {exceptId, source.objectId})) {
                continue;
            }
            ++open;
            given.lux += from.share * intensity * facing / (distance * distance);
        }
        given.isBlocked = open == 0;
        light.totalLux += given.lux;
        colour += given.lux * source.colour;
        light.sources.push_back(std::move(given));
    }
    if (light.totalLux > 0.0) light.colour = colour / luminanceOf(colour);
    return light;
}

const Source* LightField::sourceOf(const std::string& objectId) const {
    for (const Source& source : m_sources) {
        if (source.objectId == objectId) return &source;
    }
    return nullptr;
}

const Source* LightField::wallDiscOf(const std::string& objectId) const {
    for (const Source& source : m_sources) {
        if (source.isOffWall && source.objectId == objectId) return &source;
    }
    return nullptr;
}

}  // namespace rigmatch::plan
