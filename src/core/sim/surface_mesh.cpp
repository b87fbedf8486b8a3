// SPDX-License-Identifier: GPL-3.0-or-later
#include "sim/surface_mesh.h"

#include <embree3/rtcore.h>

#include <algorithm>
#include <cmath>
#include <unordered_map>

#include "sim/ray_device.h"

namespace rigmatch::sim {

RTCDevice rayDevice() {
    static const RTCDevice kDevice = rtcNewDevice("threads=1,set_affinity=0");
    return kDevice;
}

/// Naive surface nets over those blocks of a grid that the surface passes through, found by halving
/// cubes.
class SurfaceMesh::Netting {
public:
    Netting(const Solid& solid, double step, SurfaceMesh& mesh)
        : m_solid(solid), m_step(step), m_mesh(mesh) {
        const Solid::Vec margin = Solid::Vec::Constant(3.0 * step);
        m_low = solid.low() - margin;
        const Solid::Vec extent = solid.high() + margin - m_low;
        for (int k = 0; k < 3; ++k)
            m_nodes[static_cast<std::size_t>(k)] =
                static_cast<int>(std::ceil(extent(k) / (kNodeCells * step)));
    }

    void run() {
        for (int z = 0; z < m_nodes[2]; ++z) {
            for (int y = 0; y < m_nodes[1]; ++y) {
                for (int x = 0; x < m_nodes[0]; ++x)
                    node({x * kNodeCells, y * kNodeCells, z * kNodeCells}, kNodeCells, m_solid);
            }
        }
        for (const auto& [key, crossing] : m_crossings) quad(crossing);
    }

private:
    static constexpr int kCells = 4;       // of a block, to a side
    static constexpr int kNodeCells = 32;  // of the cubes that are halved down to blocks
    using Place = std::array<int, 3>;
    /// An edge of the grid that the surface crosses, from its lower end.
    struct Crossing {
        Place from;
        int axis;
        bool isOutward;  ///< the lower end lies inside
    };

    static std::uint64_t keyOf(const Place& p, int more = 0) {
        return ((static_cast<std::uint64_t>(p[0]) * 4096U + static_cast<std::uint64_t>(p[1])) *
                    4096U +
                static_cast<std::uint64_t>(p[2])) *
                   4U +
               static_cast<std::uint64_t>(more);
    }
    [[nodiscard]] Solid::Vec placeOf(const Place& p) const {
        return m_low + m_step * Solid::Vec(p[0], p[1], p[2]);
    }

    /// A cube of so many cells to a side: nothing where the surface is far, else its eight halves,
    /// each asking only those parts that bear on it, down to a block.
    void node(const Place& first, int cells, const Solid& solid) {
        const Solid::Vec middle = placeOf(first) + Solid::Vec::Constant(0.5 * cells * m_step);
        // Distances are of first order: twice as far as the cube reaches is far enough.
        if (std::abs(solid.distance(middle)) > 2.0 * cells * m_step) return;
        // From its middle to its corners, and a step more.
        const Solid local = solid.near(middle, (0.5 * std::sqrt(3.0) * cells + 1.0) * m_step);
        if (cells == kCells) return block(first, local);
        const int half = cells / 2;
        for (int i = 0; i < 8; ++i)
            node({first[0] + half * (i & 1),
                  first[1] + half * ((i >> 1) & 1),
                  first[2] + half * (i >> 2)},
                 half,
                 local);
    }

    void block(const Place& first, const Solid& local) {
        constexpr int kPoints = kCells + 1;
        std::array<double, std::size_t{kPoints} * kPoints * kPoints> values{};
        const auto at = [&](int x, int y, int z) -> double& {
            const int place = (z * kPoints + y) * kPoints + x;
            return values[static_cast<std::size_t>(place)];
        };
        for (int z = 0; z < kPoints; ++z) {
            for (int y = 0; y < kPoints; ++y) {
                for (int x = 0; x < kPoints; ++x)
                    at(x, y, z) =
                        local.distance(placeOf({first[0] + x, first[1] + y, first[2] + z}));
            }
        }
        for (int z = 0; z < kCells; ++z) {
            for (int y = 0; y < kCells; ++y) {
                for (int x = 0; x < kCells; ++x) {
                    std::array<double, 8> corner{};
                    for (int i = 0; i < 8; ++i)
                        corner[static_cast<std::size_t>(i)] =
                            at(x + (i & 1), y + ((i >> 1) & 1), z + (i >> 2));
                    cell({first[0] + x, first[1] + y, first[2] + z}, corner, local);
                }
            }
        }
    }

    void cell(const Place& place, const std::array<double, 8>& values, const Solid& solid) {
        const auto inside =
            std::count_if(values.begin(), values.end(), [](double value) { return value < 0.0; });
        if (inside == 0 || inside == 8) return;
        Solid::Vec sum = Solid::Vec::Zero();
        int count = 0;
        for (int i = 0; i < 8; ++i) {
            for (int axis = 0; axis < 3; ++axis) {
                const int j = i | (1 << axis);
                if (j == i) continue;
                const double a = values[static_cast<std::size_t>(i)],
                             b = values[static_cast<std::size_t>(j)];
                if ((a < 0.0) == (b < 0.0)) continue;
                Solid::Vec point(i & 1, (i >> 1) & 1, i >> 2);
                point(axis) = a / (a - b);
                sum += point;
                ++count;
                // The three edges at the cell's first corner are its own.
                if (i == 0) m_crossings[keyOf(place, axis)] = {place, axis, a < 0.0};
            }
        }
        Solid::Vec corner = placeOf(place) + m_step * sum / count;
        const Solid::Vec way = slope(solid, corner);
        for (int round = 0; round < 2; ++round) corner -= solid.distance(corner) * way;
        m_index[keyOf(place)] = static_cast<std::uint32_t>(m_mesh.m_corners.size());
        m_mesh.m_corners.push_back(corner.cast<float>());
        m_mesh.m_normals.push_back(slope(solid, corner).cast<float>());
        m_mesh.m_materials.push_back(static_cast<std::uint8_t>(solid.materialAt(corner)));
    }

    /// Outward, of length 1.
    [[nodiscard]] Solid::Vec slope(const Solid& solid, const Solid::Vec& at) const {
        // From the corners of a tetrahedron: even terms cancel as in central differences.
        Solid::Vec result = Solid::Vec::Zero();
        for (const Solid::Vec& way : {Solid::Vec(1, 1, 1), {1, -1, -1}, {-1, 1, -1}, {-1, -1, 1}})
            result += solid.distance(at + 0.25 * m_step * way) * way;
        const double length = result.norm();
        return length > 1e-12 ? Solid::Vec(result / length) : Solid::Vec(0, 1, 0);
    }

    /// The four cells about a crossed edge share it.
    void quad(const Crossing& crossing) {
        const int u = (crossing.axis + 1) % 3, v = (crossing.axis + 2) % 3;
        std::array<std::uint32_t, 4> around{};
        for (int i = 0; i < 4; ++i) {
            Place place = crossing.from;
            if (i == 1 || i == 2) --place[static_cast<std::size_t>(u)];
            if (i >= 2) --place[static_cast<std::size_t>(v)];
            const auto found = m_index.find(keyOf(place));
            if (found == m_index.end()) return;
            around[static_cast<std::size_t>(i)] = found->second;
        }
        if (!crossing.isOutward) std::reverse(around.begin(), around.end());
        m_mesh.m_triangles.push_back({around[0], around[1], around[2]});
        m_mesh.m_triangles.push_back({around[0], around[2], around[3]});
    }

    const Solid& m_solid;
    double m_step;
    SurfaceMesh& m_mesh;
    Solid::Vec m_low;
    std::array<int, 3> m_nodes{};
    std::unordered_map<std::uint64_t, std::uint32_t> m_index;
    std::unordered_map<std::uint64_t, Crossing> m_crossings;
};

SurfaceMesh::SurfaceMesh(const Solid& solid, double step, bool isCrisp) {
    if (isCrisp) m_crisp = solid;
    Netting(solid, step, *this).run();
    build();
}

void SurfaceMesh::build() {
    m_tree = rtcNewScene(rayDevice());
    RTCGeometry geometry = rtcNewGeometry(rayDevice(), RTC_GEOMETRY_TYPE_TRIANGLE);
    auto* corners = static_cast<float*>(rtcSetNewGeometryBuffer(geometry,
                                                                RTC_BUFFER_TYPE_VERTEX,
                                                                0,
                                                                RTC_FORMAT_FLOAT3,
                                                                3 * sizeof(float),
                                                                m_corners.size()));
    for (std::size_t i = 0; i < m_corners.size(); ++i)
        std::copy_n(m_corners[i].data(), 3, corners + 3 * i);
    auto* indices = static_cast<std::uint32_t*>(rtcSetNewGeometryBuffer(geometry,
                                                                        RTC_BUFFER_TYPE_INDEX,
                                                                        0,
                                                                        RTC_FORMAT_UINT3,
                                                                        3 * sizeof(std::uint32_t),
                                                                        m_triangles.size()));
    for (std::size_t i = 0; i < m_triangles.size(); ++i)
        std::copy_n(m_triangles[i].data(), 3, indices + 3 * i);
    rtcCommitGeometry(geometry);
    rtcAttachGeometry(m_tree, geometry);
    rtcReleaseGeometry(geometry);
    rtcCommitScene(m_tree);
}

SurfaceMesh::~SurfaceMesh() { rtcReleaseScene(m_tree); }

}  // namespace rigmatch::sim
