// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <complex>
#include <cstddef>
#include <memory>
#include <span>
#include <vector>

namespace rigmatch::sound {

/// Real Fourier transforms of one length, there and back (FFTW, single precision). Not scaled: back
/// after forth gives the samples times their number. Its buffers are its own: one thread at a time;
/// making one is safe from any thread.
class Fourier {
public:
    /// `length` >= 2, even.
    explicit Fourier(std::size_t length);
    Fourier(Fourier&&) noexcept;
    Fourier& operator=(Fourier&&) noexcept;
    ~Fourier();

    [[nodiscard]] std::size_t length() const { return m_length; }
    [[nodiscard]] std::size_t bins() const { return m_length / 2 + 1; }

    /// The samples to be transformed, and those that come back: write here, then forth().
    [[nodiscard]] std::span<float> samples();
    /// The bins from 0 to the half of the sample rate: write here, then back(), which spoils them.
    [[nodiscard]] std::span<std::complex<float>> spectrum();

    void forth();
    void back();

private:
    struct Plans;
    std::size_t m_length;
    std::unique_ptr<Plans> m_plans;
};

/// The next length that is fast to transform: a product of 2, 3 and 5, even.
[[nodiscard]] std::size_t fastLength(std::size_t atLeast);

/// A raised cosine that is 0 at both ends and adds up to one at half-overlap.
[[nodiscard]] std::vector<float> hannWindow(std::size_t length);

}  // namespace rigmatch::sound
