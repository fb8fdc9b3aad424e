#pragma once
#include <cstddef>
#include <span>
#include <vector>

namespace frenlo {

/// The slow course of light that changes as it likes, as a linear smoothing that also serves other curves of the same
/// photos. The light goes on in straight lines whose slope changes by a little from photo to photo, by how much being
/// found at each place, and so is the strength of the flicker (a state-space smoother with local variances, found by
/// expectation and maximisation: Shumway, Stoffer 1982; one variance to each change: Tipping 2001). So a cloud keeps
/// its edges, and a calm hour is drawn out of many photos.
class AdaptiveCourse
{
public:
    /// x: seconds, ascending; y: stops; prior: above 0, up to 1, how much each photo has to say; flicker: how strong it
    /// is thought to be at each, a standard deviation in stops.
    AdaptiveCourse(std::span<const double> x, std::span<const double> y, std::span<const double> prior,
                   std::span<const double> flicker);

    /// Of values of the same photos, one a photo.
    [[nodiscard]] std::vector<double> of(std::span<const double> values) const;

    /// How many photos a value is worth, the middle over them: an average over so many has as much of the flicker left.
    [[nodiscard]] double photos() const;

private:
    /// The Cholesky factors L D Lᵀ of a symmetric matrix with two diagonals to each side.
    struct Factors
    {
        std::vector<double> d, below, second; ///< D; of L the diagonals one and two below
    };
    struct Bend
    {
        double before = 0, at = 0, after = 0; ///< what three neighbours have to do with a change of slope
    };

    void find_bends(std::span<const double> x);
    void factor();
    [[nodiscard]] std::vector<double> solve(std::vector<double> right) const;
    /// The entries of the inverse on its diagonal and the two above.
    [[nodiscard]] Factors inverse() const;
    void learn(std::span<const double> y, std::span<const double> prior);

    std::vector<Bend> bends_;      ///< one to each photo but the first and the last
    std::vector<double> changes_;  ///< the variance of each
    std::vector<double> strength_; ///< the variance of the flicker, one a photo
    Factors factors_;
};

/// How strong what does not last is: a standard deviation of neighbours against the line through theirs, robust (MAD).
double quick_part(std::span<const double> y);

/// The same around each photo: what flickers in the sun may be still at night.
std::vector<double> quick_parts(std::span<const double> y);

}
