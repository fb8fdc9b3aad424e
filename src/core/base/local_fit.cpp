#include "core/base/local_fit.h"

#include <algorithm>
#include <cmath>
#include <Eigen/Dense>

namespace frenlo {

namespace {

double kernel_at(LocalKernel kernel, double distance)
{
    if (kernel == LocalKernel::even)
        return distance <= 1 ? 1 : 0;
    if (distance >= 1)
        return 0;
    const double c = 1 - distance * distance * distance;
    return c * c * c;
}

}

std::vector<double> local_weights(std::span<const double> x, LocalPlace place, double reach, int degree,
                                  LocalKernel kernel, std::span<const double> prior)
{
    std::vector<double> result(x.size(), 0);
    std::vector<std::size_t> used;
    Eigen::VectorXd weight(Eigen::Index(x.size()));
    int places = 0; // different ones: a polynomial of degree d needs d + 1
    double last = place.around - 2 * reach;
    for (std::size_t i = 0; i < x.size(); ++i) {
        const double w = kernel_at(kernel, std::abs(x[i] - place.around) / reach) * (prior.empty() ? 1 : prior[i]);
        if (w <= 0)
            continue;
        weight[Eigen::Index(used.size())] = w;
        used.push_back(i);
        places += x[i] != last;
        last = x[i];
    }
    if (used.empty())
        return result;
    const auto points = Eigen::Index(used.size()), terms = Eigen::Index(std::min(degree, places - 1)) + 1;
    Eigen::MatrixXd a(points, terms); // rows times the root of their weight
    for (Eigen::Index r = 0; r < points; ++r) {
        const double root = std::sqrt(weight[r]), d = (x[used[std::size_t(r)]] - place.around) / reach;
        double of_term = root;
        for (Eigen::Index c = 0; c < terms; ++c, of_term *= d)
            a(r, c) = of_term;
    }
    // The polynomial's coefficients are linear in the values, and so is its value at `at`: a row by the pseudo-inverse.
    Eigen::VectorXd powers(terms);
    double power = 1;
    for (Eigen::Index c = 0; c < terms; ++c, power *= (place.at - place.around) / reach)
        powers[c] = power;
    const Eigen::VectorXd row = a.transpose().completeOrthogonalDecomposition().solve(powers);
    for (Eigen::Index r = 0; r < points; ++r)
        result[used[std::size_t(r)]] = row[r] * std::sqrt(weight[r]);
    return result;
}

}
