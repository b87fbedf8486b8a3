// SPDX-License-Identifier: GPL-3.0-or-later
#include "sound/fourier.h"

#include <fftw3.h>

#include <cmath>
#include <mutex>
#include <numbers>

namespace rigmatch::sound {
namespace {

/// FFTW's planner is one for all threads.
std::mutex& planner() {
    static std::mutex mutex;
    return mutex;
}

}  // namespace

struct Fourier::Plans {
    float* samples = nullptr;
    std::complex<float>* bins = nullptr;
    fftwf_plan forth = nullptr;
    fftwf_plan back = nullptr;

    explicit Plans(std::size_t length) {
        samples = fftwf_alloc_real(length);
        fftwf_complex* complexBins = fftwf_alloc_complex(length / 2 + 1);
        // C++'s complex numbers have the same layout as FFTW's (its manual, section 4.1.1).
        bins = reinterpret_cast<std::complex<float>*>(complexBins);
        const std::scoped_lock lock(planner());
        const int count = static_cast<int>(length);
        forth = fftwf_plan_dft_r2c_1d(count, samples, complexBins, FFTW_ESTIMATE);
        back = fftwf_plan_dft_c2r_1d(count, complexBins, samples, FFTW_ESTIMATE);
    }
    Plans(const Plans&) = delete;
    Plans& operator=(const Plans&) = delete;
    ~Plans() {
        const std::scoped_lock lock(planner());
        fftwf_destroy_plan(forth);
        fftwf_destroy_plan(back);
        fftwf_free(samples);
        fftwf_free(bins);
    }
};

Fourier::Fourier(std::size_t length) : m_length(length), m_plans(std::make_unique<Plans>(length)) {}
Fourier::Fourier(Fourier&&) noexcept = default;
Fourier& Fourier::operator=(Fourier&&) noexcept = default;
Fourier::~Fourier() = default;

std::span<float> Fourier::samples() { return {m_plans->samples, m_length}; }
std::span<std::complex<float>> Fourier::spectrum() { return {m_plans->bins, bins()}; }
void Fourier::forth() { fftwf_execute(m_plans->forth); }
void Fourier::back() { fftwf_execute(m_plans->back); }

std::size_t fastLength(std::size_t atLeast) {
    std::size_t best = 2;
    while (best < atLeast) best *= 2;
    for (std::size_t three = 1; three < best; three *= 3) {
        for (std::size_t five = three; five < best; five *= 5) {
            std::size_t length = 2 * five;
            while (length < atLeast) length *= 2;
            best = std::min(best, length);
        }
    }
    return best;
}

std::vector<float> hannWindow(std::size_t length) {
    std::vector<float> window(length);
    for (std::size_t i = 0; i < length; ++i) {
        const double phase =
            2.0 * std::numbers::pi * static_cast<double>(i) / static_cast<double>(length);
        window[i] = static_cast<float>(0.5 - 0.5 * std::cos(phase));
    }
    return window;
}

}  // namespace rigmatch::sound
