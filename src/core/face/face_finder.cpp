// SPDX-License-Identifier: GPL-3.0-or-later
#include "face/face_finder.h"

#include <algorithm>
#include <cmath>
#include <numbers>
#include <opencv2/dnn.hpp>
#include <opencv2/imgproc.hpp>

#include "base/format.h"
#include "face/face_picture.h"

extern "C" {
extern const char rigmatch_face_detector[];
extern const char rigmatch_face_detector_end[];
extern const char rigmatch_face_mesh[];
extern const char rigmatch_face_mesh_end[];
}

namespace rigmatch::face {
namespace {

using base::ErrorCode;

constexpr int kInput = 192;
constexpr int kGrid = 48;
constexpr int kAnchors = kGrid * kGrid;
constexpr int kValues = 16;
constexpr double kOverlap = 0.3;     // intersection over union
constexpr double kContained = 0.7;   // of the smaller box
constexpr double kMeshMargin = 1.5;  // crop over the larger side of the box
constexpr double kFarCheek = 60.0;   // degrees from which the far cheek is not seen
// Outlines of skin on the mesh of 468 points.
constexpr std::array<int, 8> kForehead{10, 338, 337, 336, 9, 107, 108, 109};
constexpr std::array<int, 5> kLeftCheek{280, 330, 425, 411, 352};
constexpr std::array<int, 5> kRightCheek{50, 101, 205, 187, 123};
constexpr int kChin = 152;
constexpr int kBrow = 10;
constexpr std::array<int, 8> kEyes{33, 133, 159, 145, 263, 362, 386, 374};
constexpr double kFarEye = 80.0;  // degrees
// Two dozen small squares see more that is no face: one of 500 frames without people at 0.53.
constexpr double kSmallScore = 0.6;

double sigmoid(double x) { return 1.0 / (1.0 + std::exp(-x)); }

/// A find in picture coordinates: box as left, top, width, height, and six key points.
struct Find {
    double score = 0.0;
    cv::Rect2d box;
    std::array<cv::Point2d, 6> points;
};

/// A square of the picture that is given to the detector.
struct Tile {
    double left = 0.0, top = 0.0, side = 1.0;
    bool hasInnerLeft = false, hasInnerRight = false, hasInnerTop = false, hasInnerBottom = false;
};

std::vector<Tile> tilesOf(const cv::Mat& picture) {
    const double w = picture.cols;
    const double h = picture.rows;
    std::vector<Tile> tiles{{0.0, 0.0, std::max(w, h)}};
    const double side = std::min(w, h);
    const double length = std::max(w, h);
    if (length < 1.15 * side) return tiles;
    const int count = static_cast<int>(std::ceil((length - side) / (0.5 * side))) + 1;
    for (int i = 0; i < count; ++i) {
        const double at = (length - side) * i / (count - 1);
        const bool isFirst = i == 0;
        const bool isLast = i == count - 1;
        if (w >= h) {
            tiles.push_back({at, 0.0, side, !isFirst, !isLast, false, false});
        } else {
            tiles.push_back({0.0, at, side, false, false, !isFirst, !isLast});
        }
    }
    return tiles;
}

/// Squares of half the frame's height, for small faces.
std::vector<Tile> smallTilesOf(const cv::Mat& picture) {
    const double side = 0.5 * std::min(picture.cols, picture.rows);
    std::vector<Tile> tiles;
    const auto places = [&](double length) {
        const int count = static_cast<int>(std::ceil((length - side) / (0.5 * side))) + 1;
        std::vector<double> at;
        at.reserve(static_cast<std::size_t>(std::max(count, 0)));
        for (int i = 0; i < count; ++i) at.push_back((length - side) * i / std::max(1, count - 1));
        return at;
    };
    const auto across = places(picture.cols);
    const auto down = places(picture.rows);
    for (std::size_t y = 0; y < down.size(); ++y) {
        for (std::size_t x = 0; x < across.size(); ++x) {
            tiles.push_back({across[x],
                             down[y],
                             side,
                             x > 0,
                             x + 1 < across.size(),
                             y > 0,
                             y + 1 < down.size()});
        }
    }
    return tiles;
}

cv::Mat tileInput(const cv::Mat& picture, const Tile& tile) {
    const cv::Rect wanted(
        cvRound(tile.left), cvRound(tile.top), cvRound(tile.side), cvRound(tile.side));
    const cv::Rect inside = wanted & cv::Rect(0, 0, picture.cols, picture.rows);
    cv::Mat square(wanted.size(), CV_32FC3, cv::Scalar(0, 0, 0));
    picture(inside).copyTo(square(inside - wanted.tl()));
    cv::Mat small;
    cv::resize(square, small, {kInput, kInput}, 0, 0, cv::INTER_AREA);
    return small;
}

bool touchesInnerEdge(const cv::Rect2d& box, const Tile& tile) {
    constexpr double kEdge = 1.0 / 96.0;
    const double reach = kEdge * tile.side;
    return (tile.hasInnerLeft && box.x < tile.left + reach) ||
           (tile.hasInnerRight && box.x + box.width > tile.left + tile.side - reach) ||
           (tile.hasInnerTop && box.y < tile.top + reach) ||
           (tile.hasInnerBottom && box.y + box.height > tile.top + tile.side - reach);
}

void suppress(std::vector<Find>& finds) {
    std::sort(
        finds.begin(), finds.end(), [](const Find& a, const Find& b) { return a.score > b.score; });
    std::vector<Find> kept;
    for (const Find& find : finds) {
        const bool isTaken = std::any_of(kept.begin(), kept.end(), [&](const Find& other) {
            const double both = (find.box & other.box).area();
            const double smaller = std::min(find.box.area(), other.box.area());
            const double all = find.box.area() + other.box.area() - both;
            return both > kOverlap * all || both > kContained * smaller;
        });
        if (!isTaken) kept.push_back(find);
    }
    finds = std::move(kept);
}

/// Turn of the head from nose and ears along the ear axis.
double turnOf(const std::array<cv::Point2d, 6>& points) {
    const cv::Point2d axis = points[5] - points[4];
    const double length = std::hypot(axis.x, axis.y);
    if (length < 1e-6) return 90.0;
    const cv::Point2d off = points[2] - 0.5 * (points[4] + points[5]);
    const double share = 2.0 * (off.x * axis.x + off.y * axis.y) / (length * length);
    return std::asin(std::clamp(share, -1.0, 1.0)) * 180.0 / std::numbers::pi;
}

}  // namespace

Turn Face::turn() const {
    const double size = std::abs(turnDegrees);
    return size < 18.0 ? Turn::Frontal : size < 45.0 ? Turn::ThreeQuarter : Turn::Side;
}

base::Result<void> FaceOptions::validate() const {
    const auto isShare = [](double value) { return value >= 0.0 && value <= 1.0; };
    if (isShare(leastScore) && isShare(leastPresence) && isShare(candidateScore) &&
        mostFaces >= 1 && mostFaces <= 64) {
        return {};
    }
    return base::fail(ErrorCode::OutOfRange,
                      base::say("faceFinder.badOptions"),
                      base::say("faceFinder.scoresUpFaces",
                                {{"score", base::Number{leastScore, 2}},
                                 {"presence", base::Number{leastPresence, 2}},
                                 {"candidate", base::Number{candidateScore, 2}},
                                 {"faces", base::whole(mostFaces)}}),
                      base::say("faceFinder.correctOptions"));
}

struct FaceFinder::State {
    cv::dnn::Net detector;
    cv::dnn::Net mesh;

    std::vector<Find> detect(const cv::Mat& picture, const Tile& tile, double least);
    void look(const FacePicture& picture, const Find& find, Face& face);
    /// Box of the mesh's points, picture px; empty where there was none.
    cv::Rect2d meshBox;
};

std::vector<Find> FaceFinder::State::detect(const cv::Mat& picture,
                                            const Tile& tile,
                                            double least) {
    // value / 127.5 - 1 of 0..255 is 2 v - 1 of 0..1.
    const cv::Mat input =
        cv::dnn::blobFromImage(tileInput(picture, tile), 2.0, {}, {0.5, 0.5, 0.5});
    detector.setInput(input);
    std::vector<cv::Mat> outputs;
    detector.forward(outputs, detector.getUnconnectedOutLayersNames());
    if (outputs.size() != 2) return {};
    const bool isScoreFirst = outputs[0].total() == kAnchors;
    const cv::Mat scores = outputs[isScoreFirst ? 0 : 1].reshape(1, kAnchors);
    const cv::Mat values = outputs[isScoreFirst ? 1 : 0].reshape(1, kAnchors);
    if (values.cols != kValues) return {};
    const double scale = tile.side / kInput;
    std::vector<Find> finds;
    for (int i = 0; i < kAnchors; ++i) {
        const double score = sigmoid(double(scores.at<float>(i, 0)));
        if (score < least) continue;
        const int column = i % kGrid, row = i / kGrid;
        const double anchorX = (column + 0.5) / kGrid * kInput;
        const double anchorY = (row + 0.5) / kGrid * kInput;
        const float* v = values.ptr<float>(i);
        const auto place = [&](int k) {
            return cv::Point2d(tile.left + (anchorX + double(v[k])) * scale,
                               tile.top + (anchorY + double(v[k + 1])) * scale);
        };
        Find find;
        find.score = score;
        const double width = double(v[2]) * scale;
        const double height = double(v[3]) * scale;
        const cv::Point2d middle = place(0);
        find.box = {middle.x - 0.5 * width, middle.y - 0.5 * height, width, height};
        for (int k = 0; k < 6; ++k) find.points[static_cast<std::size_t>(k)] = place(4 + 2 * k);
        if (width > 2.0 && height > 2.0 && !touchesInnerEdge(find.box, tile)) finds.push_back(find);
    }
    return finds;
}

namespace {

/// Picture to the mesh's input: turned so that the eyes are level, about the middle of the box.
cv::Matx23d cropOf(const Find& find) {
    const double side = kMeshMargin * std::max(find.box.width, find.box.height);
    const cv::Point2d middle(find.box.x + 0.5 * find.box.width, find.box.y + 0.5 * find.box.height);
    const cv::Point2d eyes = find.points[1] - find.points[0];
    const double angle = std::atan2(eyes.y, eyes.x);
    const double scale = kInput / side;
    const double c = std::cos(angle) * scale;
    const double s = std::sin(angle) * scale;
    return {c,
            s,
            0.5 * kInput - c * middle.x - s * middle.y,
            -s,
            c,
            0.5 * kInput + s * middle.x - c * middle.y};
}

/// The mesh's points in the analysed picture.
std::vector<cv::Point2d> laidBack(const cv::Mat& points, const cv::Matx23d& toCrop) {
    cv::Matx23d to;
    cv::invertAffineTransform(toCrop, to);
    std::vector<cv::Point2d> laid;
    laid.reserve(static_cast<std::size_t>(points.rows));
    for (int i = 0; i < points.rows; ++i) {
        const double x = double(points.at<float>(i, 0)), y = double(points.at<float>(i, 1));
        laid.emplace_back(to(0, 0) * x + to(0, 1) * y + to(0, 2),
                          to(1, 0) * x + to(1, 1) * y + to(1, 2));
    }
    return laid;
}

/// Outlines, chin, brow and eyes of a face from the places of its mesh.
template <typename Place>
void putPlaces(const Place& place, Face& face) {
    for (const int index : kForehead) face.forehead.push_back(place(index));
    if (face.turnDegrees > -kFarCheek) {
        for (const int index : kLeftCheek) face.leftCheek.push_back(place(index));
    }
    if (face.turnDegrees < kFarCheek) {
        for (const int index : kRightCheek) face.rightCheek.push_back(place(index));
    }
    face.chin = place(kChin);
    face.brow = place(kBrow);
    // Corners and lids of both eyes: their middle is the pupil's of an eye that looks ahead. The
    // far eye of a head in profile is a guess of the mesh; the detector's points are none.
    if (std::abs(face.turnDegrees) < kFarEye) {
        image::Point sum{0.0, 0.0};
        for (const int index : kEyes) {
            const image::Point one = place(index);
            sum.x += one.x / static_cast<double>(kEyes.size());
            sum.y += one.y / static_cast<double>(kEyes.size());
        }
        face.eyes = sum;
        face.eyeCorners = {place(33), place(133), place(263), place(362)};
    }
}

}  // namespace

void FaceFinder::State::look(const FacePicture& picture, const Find& find, Face& face) {
    const cv::Matx23d toCrop = cropOf(find);
    cv::Mat crop;
    cv::warpAffine(
        picture.rgb, crop, toCrop, {kInput, kInput}, cv::INTER_LINEAR, cv::BORDER_CONSTANT);
    mesh.setInput(cv::dnn::blobFromImage(crop));
    std::vector<cv::Mat> outputs;
    mesh.forward(outputs, mesh.getUnconnectedOutLayersNames());
    cv::Mat points;
    for (const cv::Mat& output : outputs) {
        if (output.total() == 1) face.presence = sigmoid(double(output.ptr<float>()[0]));
        if (output.total() == std::size_t{468} * 3) points = output.reshape(1, 468);
    }
    meshBox = {};
    if (points.empty()) return;
    const std::vector<cv::Point2d> laid = laidBack(points, toCrop);
    cv::Point2d least(1e9, 1e9), most(-1e9, -1e9);
    for (const cv::Point2d& at : laid) {
        least = {std::min(least.x, at.x), std::min(least.y, at.y)};
        most = {std::max(most.x, at.x), std::max(most.y, at.y)};
    }
    meshBox = cv::Rect2d(least, most);
    putPlaces(
        [&](int index) {
            const cv::Point2d& at = laid[static_cast<std::size_t>(index)];
            return picture.toFrame(at.x, at.y);
        },
        face);
}

FaceFinder::FaceFinder(std::unique_ptr<State> state) : m_state(std::move(state)) {}
FaceFinder::~FaceFinder() = default;
FaceFinder::FaceFinder(FaceFinder&&) noexcept = default;
FaceFinder& FaceFinder::operator=(FaceFinder&&) noexcept = default;

base::Result<FaceFinder> FaceFinder::create() {
    try {
        auto state = std::make_unique<State>();
        state->detector = cv::dnn::readNetFromONNX(
            rigmatch_face_detector,
            static_cast<std::size_t>(rigmatch_face_detector_end - rigmatch_face_detector));
        state->mesh = cv::dnn::readNetFromONNX(
            rigmatch_face_mesh,
            static_cast<std::size_t>(rigmatch_face_mesh_end - rigmatch_face_mesh));
        return FaceFinder(std::move(state));
    } catch (const cv::Exception& failure) {
        return base::fail(ErrorCode::Unreadable,
                          base::say("faceFinder.cannotLoadFace"),
                          base::say("library.says", {{"reason", failure.what()}}),
                          base::say("faceFinder.installProgramAgain"));
    }
}

base::Result<std::vector<Face>> FaceFinder::find(const image::CodedFrame& frame,
                                                 const FaceOptions& options) {
    if (auto valid = options.validate(); !valid) return tl::unexpected(valid.error());
    if (frame.width < 64 || frame.height < 64) {
        return base::fail(
            ErrorCode::TooFewPixels,
            base::say("faceFinder.cannotLook"),
            base::say("faceFinder.pixelsWereGiven",
                      {{"width", base::whole(frame.width)}, {"height", base::whole(frame.height)}}),
            base::say("faceFinder.takeLargerPicture"));
    }
    try {
        const FacePicture picture = facePicture(frame);
        std::vector<Find> finds;
        const auto search = [&](const std::vector<Tile>& tiles, double least) {
            for (const Tile& tile : tiles) {
                const auto more = m_state->detect(picture.rgb, tile, least);
                finds.insert(finds.end(), more.begin(), more.end());
            }
            suppress(finds);
        };
        search(tilesOf(picture.rgb), options.candidateScore);
        if (finds.empty() && options.effort == FaceEffort::Thorough)
            search(smallTilesOf(picture.rgb), std::max(options.candidateScore, kSmallScore));
        std::vector<Face> faces;
        for (const Find& find : finds) {
            if (static_cast<int>(faces.size()) >= options.mostFaces) break;
            Face face;
            const image::Point corner = picture.toFrame(find.box.x, find.box.y);
            face.left = corner.x;
            face.top = corner.y;
            face.width = find.box.width * picture.step;
            face.height = find.box.height * picture.step;
            face.score = find.score;
            const auto at = [&](std::size_t i) {
                return picture.toFrame(find.points[i].x, find.points[i].y);
            };
            face.points = {at(0), at(1), at(2), at(3), at(4), at(5)};
            face.turnDegrees = turnOf(find.points);
            face.eyes = {0.5 * (face.points.rightEye.x + face.points.leftEye.x),
                         0.5 * (face.points.rightEye.y + face.points.leftEye.y)};
            face.brow = {face.eyes.x, face.top};
            face.chin = {face.points.mouth.x, face.top + face.height};
            m_state->look(picture, find, face);
            if (face.score >= options.leastScore || face.presence > options.leastPresence)
                faces.push_back(face);
        }
        std::sort(faces.begin(), faces.end(), [](const Face& a, const Face& b) {
            return a.left < b.left;
        });
        return faces;
    } catch (const cv::Exception& failure) {
        return base::fail(ErrorCode::Unmeasurable,
                          base::say("faceFinder.lookingFacesBroke"),
                          base::say("library.says", {{"reason", failure.what()}}),
                          base::say("faceFinder.measureWithoutFaces"));
    }
}

Face FaceFinder::refined(const image::CodedFrame& frame, const Face& face) {
    const double side = 2.0 * std::max(face.width, face.height);
    const image::Point middle = face.centre();
    const auto low = [](double at) { return std::max(0, static_cast<int>(std::floor(at))); };
    image::PixelRect region;
    region.x = low(middle.x - 0.5 * side);
    region.y = low(middle.y - 0.5 * side);
    region.width = std::min(frame.width, static_cast<int>(middle.x + 0.5 * side)) - region.x;
    region.height = std::min(frame.height, static_cast<int>(middle.y + 0.5 * side)) - region.y;
    if (region.width < 16 || region.height < 16) return face;
    try {
        const FacePicture picture = facePicture(frame, region);
        const auto into = [&](const image::Point& at) {
            return cv::Point2d(at.x - picture.left, at.y - picture.top);
        };
        Find find;
        find.box = {face.left - picture.left, face.top - picture.top, face.width, face.height};
        find.points[0] = into(face.points.rightEye);
        find.points[1] = into(face.points.leftEye);
        Face better = face;
        // Twice: the mesh's own outline is a better crop than the detector's box.
        for (int round = 0; round < 2; ++round) {
            better = face;
            better.forehead.clear();
            better.leftCheek.clear();
            better.rightCheek.clear();
            m_state->look(picture, find, better);
            if (better.presence < 0.3 || m_state->meshBox.empty()) return face;
            find.box = m_state->meshBox;
        }
        return better;
    } catch (const cv::Exception&) {
        return face;
    }
}

}  // namespace rigmatch::face
