// Photos whose numbers are not sRGB: what their profiles say becomes what is seen.
#include "core/source/camera_thumbnail.h"
#include "core/source/colour_profile.h"
#include "core/source/decode.h"
#include "core/source/inspect.h"
#include "tests/support/catch.h"
#include "tests/support/photos.h"
#include "tests/support/temp_folder.h"

#include <exiv2/exiv2.hpp>
#include <opencv2/core.hpp>
#include <opencv2/imgcodecs.hpp>

#include <cmath>
#include <lcms2.h>

using namespace frenlo;
using namespace frenlo::test;

namespace FRENLO_THIS_SOURCE {

namespace {

struct Primaries
{
    cmsCIExyYTRIPLE xy;
    double gamma; ///< 0: the curve of sRGB
};
/// Adobe RGB (1998) Color Image Encoding, 2005-05; Display P3 by SMPTE EG 432-1 primaries with D65 and sRGB's curve.
const Primaries adobe{{{0.64, 0.33, 1}, {0.21, 0.71, 1}, {0.15, 0.06, 1}}, 2.19921875};
const Primaries p3{{{0.680, 0.320, 1}, {0.265, 0.690, 1}, {0.150, 0.060, 1}}, 0};
const Primaries srgb{{{0.64, 0.33, 1}, {0.30, 0.60, 1}, {0.15, 0.06, 1}}, 0};

std::string bytes_of(cmsHPROFILE profile)
{
    cmsUInt32Number size = 0;
    cmsSaveProfileToMem(profile, nullptr, &size);
    std::string bytes(size, '\0');
    cmsSaveProfileToMem(profile, bytes.data(), &size);
    cmsCloseProfile(profile);
    return bytes;
}

std::string icc(const Primaries& p)
{
    const cmsCIExyY white{0.3127, 0.3290, 1};
    const double curve[] = {2.4, 1 / 1.055, 0.055 / 1.055, 1 / 12.92, 0.04045};
    cmsToneCurve* tone = p.gamma > 0 ? cmsBuildGamma(nullptr, p.gamma) : cmsBuildParametricToneCurve(nullptr, 4, curve);
    cmsToneCurve* curves[] = {tone, tone, tone};
    cmsHPROFILE profile = cmsCreateRGBProfile(&white, &p.xy, curves);
    cmsFreeToneCurve(tone);
    return bytes_of(profile);
}

double srgb_encoded(double v)
{
    return v <= 0.0031308 ? 12.92 * v : 1.055 * std::pow(v, 1 / 2.4) - 0.055; // IEC 61966-2-1
}
double srgb_linear(double v)
{
    return v <= 0.04045 ? v / 12.92 : std::pow((v + 0.055) / 1.055, 2.4);
}

/// Linear colours of these primaries to CIE XYZ, white D65: worked out from the chromaticities (SMPTE RP 177).
cv::Matx33d to_xyz(const Primaries& p)
{
    const auto column = [](const cmsCIExyY& c) { return cv::Vec3d(c.x / c.y, 1, (1 - c.x - c.y) / c.y); };
    const cv::Vec3d r = column(p.xy.Red), g = column(p.xy.Green), b = column(p.xy.Blue);
    const cv::Matx33d m(r[0], g[0], b[0], r[1], g[1], b[1], r[2], g[2], b[2]);
    const cv::Vec3d scale = m.inv() * cv::Vec3d(0.3127 / 0.3290, 1, (1 - 0.3127 - 0.3290) / 0.3290);
    return m * cv::Matx33d::diag(scale);
}

/// The sRGB code values of a colour, by formulas alone; nothing where sRGB does not have it.
std::optional<cv::Vec3d> by_formula(const cv::Vec3b& bgr, const Primaries& p)
{
    cv::Vec3d linear;
    for (int c = 0; c < 3; ++c)
        linear[2 - c] = p.gamma > 0 ? std::pow(bgr[c] / 255.0, p.gamma) : srgb_linear(bgr[c] / 255.0);
    const cv::Vec3d there = to_xyz(srgb).inv() * (to_xyz(p) * linear);
    cv::Vec3d out;
    for (int c = 0; c < 3; ++c) {
        if (there[2 - c] < 0 || there[2 - c] > 1)
            return std::nullopt;
        out[c] = 255 * srgb_encoded(there[2 - c]);
    }
    return out;
}

/// Patches of colours, large enough that JPEG keeps them.
cv::Mat patches()
{
    cv::Mat m(16 * 5, 16 * 25, CV_8UC3);
    for (int i = 0; i < 125; ++i)
        m(cv::Rect(i % 25 * 16, i / 25 * 16, 16, 16))
            .setTo(cv::Scalar(20 + i % 5 * 50, 20 + i / 5 % 5 * 50, 20 + i / 25 * 50));
    return m;
}

void embed(const std::filesystem::path& file, const std::string& profile)
{
    const auto image = Exiv2::ImageFactory::open(file.native());
    image->readMetadata();
    Exiv2::DataBuf data(reinterpret_cast<const Exiv2::byte*>(profile.data()), long(profile.size()));
    image->setIccProfile(data, false);
    image->writeMetadata();
}

/// The largest distance from what the formulas say, of the colours that sRGB has, and how many these are.
std::pair<double, int> worst(const cv::Mat& seen, const cv::Mat& stored, const Primaries& p, double scale = 1)
{
    double most = 0;
    int known = 0;
    for (int i = 0; i < 125; ++i) {
        const cv::Point at(i % 25 * 16 + 8, i / 25 * 16 + 8);
        const auto wanted = by_formula(stored.at<cv::Vec3b>(at), p);
        if (!wanted)
            continue;
        ++known;
        for (int c = 0; c < 3; ++c) {
            const double v = seen.depth() == CV_16U ? seen.at<cv::Vec3w>(at)[c] * scale : seen.at<cv::Vec3b>(at)[c];
            most = std::max(most, std::abs(v - (*wanted)[c]));
        }
    }
    return {most, known};
}

cv::Mat seen(const std::filesystem::path& file)
{
    return decode(*inspect(file).photo).value().pixels;
}

}

TEST_CASE("colours of Adobe RGB and Display P3 are what the formulas say, in every format", "[colour]")
{
    TempFolder t;
    for (const auto& [name, p] : {std::pair("adobe", adobe), std::pair("p3", p3)})
        for (const char* ending : {".png", ".tif", ".jpg", ".webp"}) {
            const std::filesystem::path file = t / (std::string(name) + ending);
            std::vector<int> how;
            if (std::string_view(ending) == ".jpg")
                how = {cv::IMWRITE_JPEG_QUALITY, 100};
            if (std::string_view(ending) == ".webp")
                how = {cv::IMWRITE_WEBP_QUALITY, 101}; // lossless
            std::filesystem::create_directories(file.parent_path());
            cv::imwrite(file.native(), patches(), how);
            const cv::Mat stored = cv::imread(file.native());
            CHECK(cv::norm(seen(file), stored, cv::NORM_INF) <= 1); // nothing said: sRGB
            if (std::string_view(ending) == ".webp") { // Exiv2 0.27 reads these, but writes a chunk with another name
                write_bytes(t / "p.icc", icc(p));
                output_of("convert " + quoted(file.native()) + " -define webp:lossless=true -profile " +
                          quoted((t / "p.icc").native()) + " " + quoted(file.native()));
            } else {
                embed(file, icc(p));
            }
            const auto [most, known] = worst(seen(file), stored, p);
            CAPTURE(file.filename());
            CHECK(known > 60);
            CHECK(most <= 1.5); // half a code value by rounding, and lcms works in 16 bit of fixed point
            CHECK_FALSE(inspect(file).finding);
        }
}

TEST_CASE("sixteen bits are converted in sixteen bits, and alpha stays", "[colour]")
{
    cv::Mat deep;
    patches().convertTo(deep, CV_16U, 257);
    cv::Mat converted = deep.clone();
    CHECK(into_srgb(converted, {icc(adobe)}).empty());
    CHECK(worst(converted, patches(), adobe, 1 / 257.0).first < 0.1);
    cv::Mat clear(patches().size(), CV_8UC4);
    cv::randu(clear, 0, 256);
    cv::Mat after = clear.clone(), before_alpha, after_alpha;
    CHECK(into_srgb(after, {icc(p3)}).empty());
    cv::extractChannel(clear, before_alpha, 3);
    cv::extractChannel(after, after_alpha, 3);
    CHECK(cv::norm(before_alpha, after_alpha, cv::NORM_INF) == 0);
    CHECK(cv::norm(clear, after, cv::NORM_INF) > 10);
}

TEST_CASE("pixels that are sRGB stay bit for bit, whether their file says so or not", "[colour]")
{
    cv::Mat m = painted({90, 60}, 4);
    const cv::Mat before = m.clone();
    CHECK(into_srgb(m, {}).empty());
    CHECK(into_srgb(m, {icc(srgb)}).empty());
    CHECK(into_srgb(m, {bytes_of(cmsCreate_sRGBProfile())}).empty());
    CHECK(cv::norm(m, before, cv::NORM_INF) == 0);
}

TEST_CASE("a grey profile is one for grey photos", "[colour]")
{
    cmsToneCurve* gamma = cmsBuildGamma(nullptr, 1.0);
    const std::string linear = bytes_of(cmsCreateGrayProfile(cmsD50_xyY(), gamma));
    cmsFreeToneCurve(gamma);
    cv::Mat m(2, 2, CV_8UC3, cv::Scalar::all(55));
    CHECK(into_srgb(m, {linear}).empty());
    for (int c = 0; c < 3; ++c)
        CHECK(m.at<cv::Vec3b>(1, 1)[c] == Approx(255 * srgb_encoded(55 / 255.0)).margin(1));
}

TEST_CASE("a camera that says Adobe RGB by its interoperability index alone is understood", "[colour]")
{
    TempFolder t;
    const std::filesystem::path file = t / "c.jpg";
    write_jpeg(file, patches(), ExifWish{"2026:05:03 10:42:11", "", 1, true}, 100);
    const cv::Mat plain = seen(file), small = camera_thumbnail(*inspect(file).photo);
    {
        const auto image = Exiv2::ImageFactory::open(file.native());
        image->readMetadata();
        image->exifData()["Exif.Iop.InteroperabilityIndex"] = "R03";
        image->writeMetadata();
    }
    CHECK(cv::norm(seen(file), plain, cv::NORM_INF) > 10);
    CHECK(worst(seen(file), plain, adobe).first <= 1.5);
    REQUIRE_FALSE(small.empty());
    CHECK(cv::norm(camera_thumbnail(*inspect(file).photo), small, cv::NORM_INF) > 10); // and its thumbnail
}

TEST_CASE("a profile that cannot be used is told, and the photo is taken for sRGB", "[colour]")
{
    TempFolder t;
    std::string broken = icc(adobe);
    broken.resize(200);
    std::string cmyk = icc(adobe);
    cmyk.replace(16, 4, "CMYK"); // its colour space by the header
    for (const auto& [profile, says] : {std::pair(broken, "cannot be read"), std::pair(cmyk, "is damaged")}) {
        const std::filesystem::path file = t / "b.jpg";
        write_jpeg(file, patches(), {}, 100);
        const cv::Mat plain = seen(file);
        embed(file, profile);
        const Inspected found = inspect(file);
        CHECK(found.state == PhotoState::fine);
        REQUIRE(found.finding);
        CHECK(found.finding->kind == FindingKind::profile_odd);
        CHECK_THAT(found.finding->text, Catch::Contains("b.jpg has a colour profile") && Catch::Contains(says));
        CHECK(cv::norm(seen(file), plain, cv::NORM_INF) == 0);
    }
    for (std::size_t length = 0; length < 400; length += 7) { // whatever is left of one, nothing breaks
        cv::Mat m = painted({8, 8}, 1);
        into_srgb(m, {icc(adobe).substr(0, length)});
        CHECK(m.size() == cv::Size(8, 8));
    }
}

namespace {

/// A made-up press: each ink takes away its light, black most; as a table of device colours to CIE Lab (ICC.1, lut16).
std::string press_profile()
{
    const auto sample = [](const cmsUInt16Number in[], cmsUInt16Number out[], void* srgb_to_lab) -> cmsInt32Number {
        std::uint8_t bgr[3];
        for (int i = 0; i < 3; ++i)
            bgr[i] = std::uint8_t(std::lround(255 * (1 - in[2 - i] / 65'535.0) * (1 - 0.75 * in[3] / 65'535.0)));
        cmsDoTransform(srgb_to_lab, bgr, out, 1);
        return 1;
    };
    cmsHPROFILE srgb_profile = cmsCreate_sRGBProfile(), lab = cmsCreateLab2Profile(nullptr);
    cmsHTRANSFORM to_lab = cmsCreateTransform(srgb_profile, TYPE_BGR_8, lab, TYPE_LabV2_16,
                                              INTENT_RELATIVE_COLORIMETRIC, cmsFLAGS_NOOPTIMIZE);
    cmsPipeline* table = cmsPipelineAlloc(nullptr, 4, 3);
    cmsStage* grid = cmsStageAllocCLut16bit(nullptr, 17, 4, 3, nullptr);
    cmsStageSampleCLut16bit(grid, sample, to_lab, 0);
    cmsPipelineInsertStage(table, cmsAT_BEGIN, cmsStageAllocToneCurves(nullptr, 4, nullptr));
    cmsPipelineInsertStage(table, cmsAT_END, grid);
    cmsPipelineInsertStage(table, cmsAT_END, cmsStageAllocToneCurves(nullptr, 3, nullptr));
    cmsHPROFILE press = cmsCreateProfilePlaceholder(nullptr);
    cmsSetProfileVersion(press, 2.1);
    cmsSetDeviceClass(press, cmsSigOutputClass);
    cmsSetColorSpace(press, cmsSigCmykData);
    cmsSetPCS(press, cmsSigLabData);
    cmsWriteTag(press, cmsSigAToB0Tag, table);
    cmsWriteTag(press, cmsSigMediaWhitePointTag, cmsD50_XYZ());
    cmsPipelineFree(table);
    cmsDeleteTransform(to_lab);
    cmsCloseProfile(lab);
    cmsCloseProfile(srgb_profile);
    return bytes_of(press);
}

}

TEST_CASE("inks become light by their profile, and without one as each takes away its own", "[colour]")
{
    TempFolder t;
    const std::filesystem::path plain = t / "ink.tif", with = t / "press.tif", jpeg = t / "ink.jpg";
    // 20 % cyan, 60 % magenta, 40 % yellow, 50 % black
    output_of("convert -size 32x32 'xc:cmyk(20%,60%,40%,50%)' -depth 8 -colorspace CMYK " + quoted(plain.native()));
    output_of("convert -size 32x32 'xc:cmyk(20%,60%,40%,50%)' -quality 100 -colorspace CMYK " + quoted(jpeg.native()));
    std::filesystem::copy_file(plain, with);
    write_bytes(t / "press.icc", press_profile());
    output_of("exiftool -q -overwrite_original '-icc_profile<=" + (t / "press.icc").native() + "' " +
              quoted(with.native()));
    const auto check = [&](const std::filesystem::path& file, double black, double within) {
        INFO(file);
        const Inspected found = inspect(file);
        CHECK_FALSE(found.finding);
        const cv::Vec3b v = seen(file).at<cv::Vec3b>(16, 16);
        const double left = 1 - 0.5 * black;
        CHECK(std::abs(v[2] - 255 * 0.8 * left) <= within);
        CHECK(std::abs(v[1] - 255 * 0.4 * left) <= within);
        CHECK(std::abs(v[0] - 255 * 0.6 * left) <= within);
    };
    check(plain, 1, 1);
    check(jpeg, 1, 3);
    check(with, 0.75, 2); // the table's steps, and black point compensation has nothing to do: black is 0 there
}

TEST_CASE("16 bits of a wide gamut keep colours that sRGB has not", "[colour]")
{
    // The green of ProPhoto RGB (ISO 22028-2: ROMM RGB) by its primaries, with a gamma of 1.8 and the white of D50.
    const Primaries romm{{{0.7347, 0.2653, 1}, {0.1596, 0.8404, 1}, {0.0366, 0.0001, 1}}, 1.8};
    const cmsCIExyY white{0.3457, 0.3585, 1};
    cmsToneCurve* gamma = cmsBuildGamma(nullptr, 1.8);
    cmsToneCurve* curves[] = {gamma, gamma, gamma};
    const std::string profile = bytes_of(cmsCreateRGBProfile(&white, &romm.xy, curves));
    cmsFreeToneCurve(gamma);
    cv::Mat m(4, 4, CV_16UC3, cv::Scalar(10'000, 50'000, 20'000)), clipped = m.clone();
    CHECK(into_srgb(m, {profile}, Numbers::wide).empty());
    REQUIRE(m.depth() == CV_32F);
    CHECK(m.at<cv::Vec3f>(1, 1)[2] < -0.05); // no red makes it
    CHECK(m.at<cv::Vec3f>(1, 1)[1] > 0.4);
    CHECK(into_srgb(clipped, {profile}).empty());
    CHECK(clipped.depth() == CV_16U);
    CHECK(clipped.at<cv::Vec3w>(1, 1)[2] == 0);
    // Grey stays grey, as bright as it was: 1.8 is the exponent.
    cv::Mat grey(4, 4, CV_16UC3, cv::Scalar::all(30'000));
    CHECK(into_srgb(grey, {profile}, Numbers::wide).empty());
    for (int c = 0; c < 3; ++c)
        CHECK(grey.at<cv::Vec3f>(1, 1)[c] == Approx(std::pow(30'000 / 65'535.0, 1.8)).margin(0.002));
}

}
