// SPDX-License-Identifier: GPL-3.0-or-later
#include "media/metadata.h"

#include <algorithm>
#include <charconv>
#include <exiv2/exiv2.hpp>
#include <map>

extern "C" {
#include <libavutil/dict.h>
}

namespace rigmatch::media {
namespace {

std::optional<double> numberIn(const std::string& text) {
    const auto start = text.find_first_of("0123456789.");
    if (start == std::string::npos) return std::nullopt;
    double value = 0.0;
    const char* end = text.data() + text.size();
    const auto parsed = std::from_chars(text.data() + start, end, value);
    if (parsed.ec != std::errc() || !(value > 0.0)) return std::nullopt;
    // "1/50" is a time, not the number one.
    if (parsed.ptr != end && *parsed.ptr == '/') {
        double below = 0.0;
        const auto second = std::from_chars(parsed.ptr + 1, end, below);
        if (second.ec == std::errc() && below > 0.0) return value / below;
    }
    return value;
}

std::string lowered(std::string text) {
    std::transform(text.begin(), text.end(), text.begin(), [](unsigned char c) {
        return static_cast<char>(std::tolower(c));
    });
    return text;
}

bool endsWith(const std::string& text, std::string_view tail) {
    return text.size() >= tail.size() &&
           text.compare(text.size() - tail.size(), tail.size(), tail) == 0;
}

std::optional<double> exifNumber(const Exiv2::ExifData& data, const char* key) {
    const auto found = data.findKey(Exiv2::ExifKey(key));
    if (found == data.end() || found->count() == 0) return std::nullopt;
    const double value = static_cast<double>(found->toFloat());
    return value > 0.0 ? std::optional(value) : std::nullopt;
}

std::optional<std::string> exifText(const Exiv2::ExifData& data, const char* key) {
    const auto found = data.findKey(Exiv2::ExifKey(key));
    if (found == data.end() || found->count() == 0) return std::nullopt;
    return found->toString();
}

int turnOfOrientation(long orientation) {
    if (orientation == 3) return 180;
    if (orientation == 6) return 90;
    return orientation == 8 ? 270 : 0;
}

/// Puts one key-value pair where it belongs; unknown keys are left alone.
void take(RecordedSettings& settings, const std::string& key, const std::string& value) {
    const std::string name = lowered(key);
    if (endsWith(name, "iso") || endsWith(name, "isospeed") || endsWith(name, "exposureindex")) {
        settings.isoValue = numberIn(value);
    } else if (endsWith(name, "shutterspeed") || endsWith(name, "exposuretime")) {
        const auto number = numberIn(value);
        // Whole numbers above 1 are the x of 1/x.
        settings.shutterSeconds = number && *number > 1.0 ? 1.0 / *number : number;
    } else if (endsWith(name, "fnumber") || endsWith(name, "aperture")) {
        settings.fNumber = numberIn(value);
    } else if (endsWith(name, "focallength")) {
        settings.focalLengthMm = numberIn(value);
    } else if (endsWith(name, "whitebalance") || endsWith(name, "colortemperature")) {
        const auto kelvin = numberIn(value);
        if (kelvin && *kelvin >= 1000.0) settings.whiteBalanceKelvin = kelvin;
    } else if (endsWith(name, ".model") || name == "model") {
        settings.bodyName = value;
    } else if (endsWith(name, "lensmodel")) {
        settings.lensName = value;
    } else if (endsWith(name, "creation_time")) {
        settings.createdAt = value;
    }
}

}  // namespace

StillMetadata stillMetadata(const std::filesystem::path& path) {
    StillMetadata result;
    Exiv2::Image::AutoPtr picture;
    try {
        Exiv2::LogMsg::setLevel(Exiv2::LogMsg::mute);
        picture = Exiv2::ImageFactory::open(path.string());
        picture->readMetadata();
        const Exiv2::ExifData& data = picture->exifData();
        result.recorded.isoValue = exifNumber(data, "Exif.Photo.ISOSpeedRatings");
        result.recorded.shutterSeconds = exifNumber(data, "Exif.Photo.ExposureTime");
        result.recorded.fNumber = exifNumber(data, "Exif.Photo.FNumber");
        result.recorded.focalLengthMm = exifNumber(data, "Exif.Photo.FocalLength");
        result.recorded.bodyName = exifText(data, "Exif.Image.Model");
        result.recorded.lensName = exifText(data, "Exif.Photo.LensModel");
        result.recorded.createdAt = exifText(data, "Exif.Photo.DateTimeOriginal");
        const auto orientation = exifNumber(data, "Exif.Image.Orientation");
        if (orientation) {
            result.rotationDegrees = turnOfOrientation(static_cast<long>(*orientation));
        }
    } catch (const Exiv2::AnyError&) {
        // No readable metadata is no failure of the picture.
        result.recorded = {};
    }
    if (picture.get() != nullptr) {
        result.pixels = static_cast<long long>(picture->pixelWidth()) * picture->pixelHeight();
        result.size =
            std::to_string(picture->pixelWidth()) + " × " + std::to_string(picture->pixelHeight());
    }
    return result;
}

std::string metadataValue(const AVDictionary* container,
                          const AVDictionary* stream,
                          const char* key) {
    for (const AVDictionary* dictionary : {stream, container}) {
        const AVDictionaryEntry* entry = av_dict_get(dictionary, key, nullptr, 0);
        if (entry != nullptr) return entry->value;
    }
    return {};
}

RecordedSettings clipMetadata(const AVDictionary* container, const AVDictionary* stream) {
    RecordedSettings settings;
    for (const AVDictionary* dictionary : {container, stream}) {
        const AVDictionaryEntry* entry = nullptr;
        while ((entry = av_dict_get(dictionary, "", entry, AV_DICT_IGNORE_SUFFIX)) != nullptr) {
            take(settings, entry->key, entry->value);
        }
    }
    return settings;
}

}  // namespace rigmatch::media
