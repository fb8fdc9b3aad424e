#include "core/base/local_fit.h"
#include "tests/support/catch.h"

#include <array>
#include <cmath>
#include <numeric>

using namespace frenlo;

namespace FRENLO_THIS_SOURCE {

namespace {

std::vector<double> even_spacing(int reach)
{
    std::vector<double> x;
    for (int i = -reach; i <= reach; ++i)
        x.push_back(i);
    return x;
}

double sum_of(const std::vector<double>& weights, const std::vector<double>& values)
{
    return std::inner_product(weights.begin(), weights.end(), values.begin(), 0.0);
}

}

TEST_CASE("smoothing weights, against the published tables", "[smoothing]")
{
    struct Row
    {
        int reach;
        int degree;
        std::vector<double> integers;
        double norm;
    };
    // Savitzky, Golay 1964, tables I and II: quadratic and cubic have the same weights in the middle.
    const Row rows[] = {{2, 2, {-3, 12, 17, 12, -3}, 35},
                        {2, 3, {-3, 12, 17, 12, -3}, 35},
                        {3, 3, {-2, 3, 6, 7, 6, 3, -2}, 21},
                        {4, 2, {-21, 14, 39, 54, 59, 54, 39, 14, -21}, 231},
                        {2, 4, {0, 0, 1, 0, 0}, 1}, // five points and five coefficients: the value itself
                        {1, 1, {1, 1, 1}, 3},
                        {2, 0, {1, 1, 1, 1, 1}, 5}};
    for (const Row& row : rows) {
        const auto x = even_spacing(row.reach);
        const auto w = local_weights(x, 0, row.reach, row.degree, LocalKernel::even);
        REQUIRE(w.size() == row.integers.size());
        for (std::size_t i = 0; i < w.size(); ++i)
            CHECK(w[i] == Approx(row.integers[i] / row.norm).margin(1e-12));
    }
    // Cleveland 1979: the kernel, seen by degree 0: (1 - |d|^3)^3 over its sum.
    const std::vector<double> x{-1, 0, 2};
    const auto w = local_weights(x, 0, 4, 0);
    const double a = std::pow(1 - std::pow(0.25, 3), 3), b = 1, c = std::pow(1 - std::pow(0.5, 3), 3);
    CHECK(w[0] == Approx(a / (a + b + c)));
    CHECK(w[1] == Approx(b / (a + b + c)));
    CHECK(w[2] == Approx(c / (a + b + c)));
}

TEST_CASE("a polynomial of the degree goes through unchanged, at any spacing and at the ends", "[smoothing]")
{
    const std::vector<double> x{0, 0.3, 1, 1.1, 2.5, 3, 4.2, 5};
    std::vector<double> cubic;
    const auto f = [](double v) { return 2 - 3 * v + 0.5 * v * v - 0.2 * v * v * v; };
    for (const double v : x)
        cubic.push_back(f(v));
    for (const double at : {0.0, 0.7, 2.5, 5.0}) {
        CHECK(sum_of(local_weights(x, at, 4, 3), cubic) == Approx(f(at)));
        CHECK(std::abs(sum_of(local_weights(x, at, 4, 1), cubic) - f(at)) > 0.01); // a line does not
    }
    // Fitted around one place and looked at in another: a cubic is the same everywhere.
    CHECK(sum_of(local_weights(x, {2.5, 4.9}, 4, 3), cubic) == Approx(f(4.9)));
    // Savitzky, Golay 1964, five points, quadratic, at the first of them: (31, 9, -3, -5, 3) / 35 (from memory).
    const auto end = local_weights(even_spacing(2), {0, -2}, 2, 2, LocalKernel::even);
    const std::array<double, 5> known{31, 9, -3, -5, 3};
    for (std::size_t i = 0; i < known.size(); ++i)
        CHECK(end[i] == Approx(known[i] / 35));
    // Fewer points in reach than the degree needs; none; one that has no say.
    CHECK(local_weights(std::vector<double>{0, 10}, 0.0, 1, 3) == std::vector<double>{1, 0});
    CHECK(local_weights(std::vector<double>{5, 10}, 0.0, 1, 3) == std::vector<double>{0, 0});
    const std::vector<double> prior{1, 0, 1};
    const auto w = local_weights(std::vector<double>{-1, 0, 1}, 0.0, 2, 1, LocalKernel::tricube, prior);
    CHECK(w[0] == Approx(0.5));
    CHECK(w[1] == 0);
}

}
