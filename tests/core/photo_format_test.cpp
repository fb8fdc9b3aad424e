// Photos of every format and kind that carries something to go wrong: orientation, alpha, depth, damage. The other side
// is ImageMagick (convert -auto-orient) and exiftool.
#include "core/source/decode.h"
#include "core/source/inspect.h"
#include "core/source/metadata.h"
#include "core/steps/sort/scan.h"
#include "tests/support/catch.h"
#include "tests/support/photos.h"
#include "tests/support/temp_folder.h"

#include <opencv2/core.hpp>
#include <opencv2/imgcodecs.hpp>

#include <sys/stat.h>
#include <unistd.h>

using namespace frenlo;
using namespace frenlo::test;

namespace FRENLO_THIS_SOURCE {

namespace {

/// Runs with both names quoted: "convert IN -depth 16 OUT".
void run(const std::string& command)
{
    int status = 0;
    output_of(command + " 2>&1", &status);
    if (status != 0)
        throw std::runtime_error(command);
}

std::string q(const std::filesystem::path& p)
{
    return quoted(p.native());
}

cv::Mat reference_of(const std::filesystem::path& photo, const std::filesystem::path& scratch,
                     const std::string& options = {})
{
    run("convert " + q(photo) + " -auto-orient " + options + " PNG48:" + q(scratch));
    return cv::imread(scratch.native(), cv::IMREAD_UNCHANGED);
}

/// As 16 bit, whatever it is.
cv::Mat deep(const cv::Mat& m)
{
    cv::Mat out;
    m.convertTo(out, CV_16U, m.depth() == CV_8U ? 257 : 1);
    return out;
}

Result<DecodedPhoto> decoded(const std::filesystem::path& file)
{
    return decode(*inspect(file).photo);
}

}

TEST_CASE("a photo is seen as its orientation says, whatever the format, depth and compression", "[photo][orientation]")
{
    TempFolder t;
    write_picture(t / "up.png", painted({37, 22}, 3));
    struct Row
    {
        const char* name;
        const char* options;
        double allowed; ///< of 65535: what a lossy format loses
    };
    const Row row = GENERATE(
        Row{"a.jpg", "-quality 100 -sampling-factor 1x1", 900}, Row{"a.tif", "-depth 8 -compress none", 0},
        Row{"a.tif", "-depth 16 -compress none", 0}, Row{"a.tif", "-depth 8 -compress lzw", 0},
        Row{"a.tif", "-depth 16 -compress lzw", 0}, Row{"a.tif", "-depth 16 -compress zip", 0},
        Row{"a.tif", "-depth 8 -compress none -interlace plane", 0},
        Row{"a.tif", "-depth 16 -define tiff:tile-geometry=16x16", 0}, Row{"a.tif", "-colorspace gray -depth 8", 0},
        Row{"a.tif", "-colorspace gray -depth 16 -negate -define quantum:polarity=min-is-white", 0},
        Row{"a.webp", "-define webp:lossless=true", 0});
    run("convert " + q(t / "up.png") + ' ' + row.options + ' ' + q(t / row.name));
    const auto twin = t / "twin.tif"; // ImageMagick does not turn WebP
    run("convert " + q(t / "up.png") + ' ' + q(twin));
    for (int orientation = 1; orientation <= 8; ++orientation) {
        run("exiftool -q -overwrite_original -n -Orientation=" + std::to_string(orientation) + ' ' + q(t / row.name));
        CAPTURE(row.name, row.options, orientation);
        const auto seen = decoded(t / row.name);
        REQUIRE(seen.has_value());
        const auto other = std::string(row.name) == "a.webp" ? twin : t / row.name;
        run("exiftool -q -overwrite_original -n -Orientation=" + std::to_string(orientation) + ' ' + q(other));
        const cv::Mat expected = reference_of(other, t / "expected.png");
        REQUIRE(seen->pixels.size() == expected.size());
        CHECK(inspect(t / row.name).photo->size == expected.size());
        CHECK(cv::norm(deep(seen->pixels), expected, cv::NORM_INF) <= row.allowed);
    }
}

TEST_CASE("alpha in a TIFF is what its tag says: colours multiplied by it or not", "[photo][tiff][alpha]")
{
    TempFolder t;
    cv::Mat straight(20, 30, CV_8UC4);
    for (int y = 0; y < straight.rows; ++y)
        for (int x = 0; x < straight.cols; ++x)
            straight.at<cv::Vec4b>(y, x) = cv::Vec4b(std::uint8_t(200 - 3 * x), std::uint8_t(60 + 5 * y),
                                                     std::uint8_t(40 + 4 * x), std::uint8_t(60 + 6 * x));
    cv::imwrite((t / "in.png").native(), straight);
    const char* colours = GENERATE("", "-colorspace gray");
    const char* depth = GENERATE("-depth 8", "-depth 16");
    const char* alpha = GENERATE("associated", "unassociated", "unspecified");
    const char* layout = GENERATE("", "-interlace plane");
    CAPTURE(colours, depth, alpha, layout);
    if (std::string(alpha) == "associated" && *layout != 0)
        return; // ImageMagick then writes colours that are not multiplied, whatever its tag says
    run("convert " + q(t / "in.png") + ' ' + colours + ' ' + depth + ' ' + layout + " -define tiff:alpha=" + alpha +
        ' ' + q(t / "a.tif"));
    run("convert " + q(t / "in.png") + ' ' + colours + ' ' + " PNG64:" + q(t / "expected.png"));
    const auto seen = decoded(t / "a.tif");
    REQUIRE(seen.has_value());
    CHECK(inspect(t / "a.tif").photo->alpha);
    REQUIRE(seen->pixels.channels() == 4);
    // Multiplied and divided again, an 8-bit value is off by half a step of the alpha: 255 / 60 / 2 steps and one
    // rounding.
    const double allowed = std::string(alpha) == "associated" ? 257 * 3.2 : 257;
    CHECK(cv::norm(deep(seen->pixels), cv::imread((t / "expected.png").native(), cv::IMREAD_UNCHANGED), cv::NORM_INF) <=
          allowed);
}

TEST_CASE("kinds of TIFF that scanners and programs write are read as others read them", "[photo][tiff]")
{
    TempFolder t;
    write_picture(t / "in.png", painted({40, 30}, 5));
    struct Row
    {
        const char* options;
        double allowed; ///< of 65535
    };
    const Row row = GENERATE(Row{"-type palette", 257}, Row{"-monochrome", 0}, Row{"-define tiff:rows-per-strip=7", 0},
                             Row{"-endian msb -depth 16", 0}, Row{"-compress rle", 0},
                             Row{"-compress jpeg -quality 100 -sampling-factor 1x1", 1500});
    run("convert " + q(t / "in.png") + ' ' + row.options + ' ' + q(t / "a.tif"));
    CAPTURE(row.options);
    const auto seen = decoded(t / "a.tif");
    REQUIRE(seen.has_value());
    CHECK(cv::norm(deep(seen->pixels), reference_of(t / "a.tif", t / "expected.png"), cv::NORM_INF) <= row.allowed);
    run("convert " + q(t / "in.png") + ' ' + row.options + " TIFF64:" + q(t / "big.tif")); // BigTIFF
    const Inspected big = inspect(t / "big.tif");
    CHECK(big.state == PhotoState::fine);
    CHECK(big.photo->size == cv::Size(40, 30));
    CHECK(cv::norm(decode(*big.photo)->pixels, seen->pixels, cv::NORM_INF) == 0);
}

TEST_CASE("PNG of every kind is read as others read it", "[photo][png]")
{
    TempFolder t;
    write_picture(t / "in.png", painted({40, 30}, 6));
    const char* kind = GENERATE(
        "PNG8:", "PNG24:", "PNG32:", "PNG48:", "PNG64:", "-colorspace gray PNG:", "-colorspace gray -depth 16 PNG:",
        "-monochrome PNG:", "-interlace plane PNG24:", "-transparent black PNG8:");
    run("convert " + q(t / "in.png") + ' ' + kind + q(t / "a.png"));
    CAPTURE(kind);
    const auto seen = decoded(t / "a.png");
    REQUIRE(seen.has_value());
    run("convert " + q(t / "a.png") + " PNG" + (seen->pixels.channels() == 4 ? "64:" : "48:") + q(t / "expected.png"));
    CHECK(cv::norm(deep(seen->pixels), cv::imread((t / "expected.png").native(), cv::IMREAD_UNCHANGED), cv::NORM_INF) ==
          0);
}

TEST_CASE("photos that no export could use are found by the scan, and by name", "[photo][bad]")
{
    TempFolder t;
    write_picture(t / "in.png", painted({200, 150}, 7));
    std::filesystem::create_directories(t / "s");
    const auto file = [&](const char* name) { return t / "s" / name; };
    struct Row
    {
        const char* name;
        std::string make;
        const char* says;
    };
    const std::vector<Row> rows{
        {"float.tif",
         "convert " + q(t / "in.png") + " -depth 64 -define quantum:format=floating-point " + q(file("float.tif")),
         "floating point"},
    };
    for (const Row& row : rows) {
        run(row.make);
        const Inspected found = inspect(file(row.name));
        CAPTURE(row.name);
        CHECK(found.state == PhotoState::unreadable);
        REQUIRE(found.finding);
        CHECK_THAT(found.finding->text, Catch::Contains(row.says) && Catch::Contains(row.name));
        CHECK_FALSE(decode(*found.photo).has_value());
    }
    // Cut anywhere behind its directory, which Exiv2's own writer puts first.
    run("convert " + q(t / "in.png") + " -compress none " + q(file("cut.tif")));
    run("exiftool -q -overwrite_original -n -Orientation=1 " + q(file("cut.tif")));
    const std::string whole = read_bytes(file("cut.tif"));
    int told = 0;
    for (int tenth = 3; tenth <= 9; ++tenth) {
        write_bytes(file("cut.tif"), whole.substr(0, whole.size() * std::size_t(tenth) / 10));
        told += inspect(file("cut.tif")).state == PhotoState::unreadable ? 1 : 0;
    }
    CHECK(told == 7);
}

TEST_CASE("a picture that is too large for the machine is refused by its header, in every format",
          "[photo][bad][memory]")
{
    TempFolder t;
    write_picture(t / "a.png", painted({40, 30}, 8));
    std::string png = read_bytes(t / "a.png"); // IHDR: width and height from byte 16 on, big-endian (W3C PNG, 11.2.1)
    for (const std::size_t at : {16, 20})
        png.replace(at, 4, std::string("\x00\x00\x75\x30", 4)); // 30,000
    const auto refused = decode_bytes(png, 1, {}, "a.png");
    REQUIRE_FALSE(refused.has_value());
    CHECK(refused.error().file == "a.png");
    run("convert " + q(t / "a.png") + " -compress lzw " + q(t / "a.tif"));
    run("exiftool -q -overwrite_original -n -ImageWidth=30000 -ImageHeight=30000 " + q(t / "a.tif") + " || true");
    write_jpeg(t / "a.jpg", painted({40, 30}, 8));
    std::string jpeg = read_bytes(t / "a.jpg");
    const auto frame = jpeg.find("\xFF\xC0"); // SOF0: height and width five bytes behind it (ITU-T T.81, B.2.2)
    REQUIRE(frame != std::string::npos);
    jpeg.replace(frame + 5, 4, "\x75\x30\x75\x30");
    const auto large = decode_bytes(jpeg, 1, {10, 10}, "a.jpg");
    REQUIRE_FALSE(large.has_value());
    CHECK_THAT(large.error().text(), Catch::Contains("500 megapixels") && Catch::Contains("a.jpg"));
    // Not by its size, but with too few bytes for it: told before memory is asked for.
    for (const std::size_t at : {16, 20})
        png.replace(at, 4, std::string("\x00\x00\x4e\x20", 4)); // 20,000
    CHECK_FALSE(decode_bytes(png, 1, {}, "a.png").has_value());
}

TEST_CASE("what is cut off gives the part that is there, with a word", "[photo][bad]")
{
    TempFolder t;
    write_picture(t / "in.png", with_noise(painted({300, 200}, 9), 9, 1));
    const char* name = GENERATE("a.png", "a.tif", "a.jpg");
    run("convert " + q(t / "in.png") + " -compress none " + q(t / name));
    const std::string whole = read_bytes(t / name);
    const auto part = decode_bytes(std::string_view(whole).substr(0, whole.size() * 6 / 10), 1, {}, name);
    CAPTURE(name);
    if (std::string(name) == "a.tif" && !part) { // where its directory is at the end, nothing can be known of it
        CHECK(part.error().file == name);
        return;
    }
    REQUIRE(part.has_value());
    CHECK_THAT(part->flaw, Catch::Contains("cut off"));
    const cv::Mat all = decode_bytes(whole, 1, {}, name)->pixels;
    CHECK(cv::norm(part->pixels.rowRange(0, 80), all.rowRange(0, 80), cv::NORM_INF) < 3);
}

TEST_CASE("the library's own complaints reach nobody", "[photo][bad]")
{
    TempFolder t;
    write_picture(t / "a.png", painted({60, 40}, 2));
    run("convert " + q(t / "a.png") + " -compress lzw " + q(t / "a.tif"));
    std::fflush(stderr);
    const int kept = dup(2);
    FILE* to = std::fopen((t / "said").c_str(), "w");
    dup2(fileno(to), 2);
    for (const char* name : {"a.png", "a.tif"}) {
        std::string bytes = read_bytes(t / name);
        for (std::size_t i = 40; i < bytes.size(); i += 7) {
            std::string bad = bytes;
            bad[i] = char(bad[i] ^ 0x55);
            (void)decode_bytes(bad, 1, {}, name);
        }
    }
    std::fflush(stderr);
    dup2(kept, 2);
    close(kept);
    std::fclose(to);
    CHECK(read_bytes(t / "said").empty());
}

TEST_CASE("a comment of 60 kB before the picture changes nothing",
          "[photo][metadata]") // more than is read to know a file
{
    TempFolder t;
    write_jpeg(t / "a.jpg", painted({64, 48}, 4), ExifWish{"2026:05:03 10:00:00", "", 6, true});
    const Inspected before = inspect(t / "a.jpg");
    run("exiftool -q -overwrite_original '-UserComment=" + std::string(60'000, 'x') + "' " + q(t / "a.jpg"));
    const Inspected after = inspect(t / "a.jpg");
    CHECK(after.state == PhotoState::fine);
    CHECK(after.photo->size == cv::Size(48, 64));
    CHECK(after.photo->captured == before.photo->captured);
    CHECK(cv::norm(decode(*after.photo)->pixels, decode_bytes(read_bytes(t / "a.jpg"), 6, {}, "a.jpg")->pixels,
                   cv::NORM_INF) == 0);
}

TEST_CASE("pipes and links to nowhere among photos are told, and nobody waits for them", "[photo][scan][bad]")
{
    TempFolder t;
    write_run(t / "s", "s", 3, {16, 16});
    REQUIRE(mkfifo((t / "s" / "s_0004.jpg").c_str(), 0600) == 0);
    std::filesystem::create_symlink("nowhere.jpg", t / "s" / "s_0005.jpg");
    const std::array places{t / "s"};
    const ScanResult found = scan(places, {}, {});
    CHECK(found.photos.size() == 5);
    CHECK(std::count_if(found.findings.begin(), found.findings.end(),
                        [](const Finding& f) { return f.kind == FindingKind::unreadable; }) == 2);
    PhotoFile pipe;
    pipe.file = t / "s" / "s_0004.jpg";
    CHECK_FALSE(decode(pipe).has_value());
}

TEST_CASE("a WebP whose length cannot be is told, and ends nothing", "[photo][bad]") // a find of the fuzzer
{
    TempFolder t;
    const auto file = t / "long.webp";
    write_bytes(file, std::string("RIFF\xff\xff\xff\xffWEBP\xe9\xf6\xf7\x23", 16) + std::string(80, '\x8b'));
    CHECK(camera_thumbnail_bytes(file).jpeg.empty());
    CHECK_FALSE(read_metadata(file));
    const std::array places{t.path()};
    const ScanResult found = scan(places, {}, {});
    REQUIRE(found.findings.size() == 1);
    CHECK_THAT(found.findings[0].text, Catch::Contains("long.webp"));
}

TEST_CASE("a video that is called a photo is told, and does not end the program", "[format][bad]")
{
    TempFolder t;
    // The beginning of a Matroska file whose first block says a length that cannot be: Exiv2's reader of it ends there.
    const std::string bytes(
        "\x1a\x45\xdf\xa3,\x02\0\0\xf5\0\x02\x03\xff\x07\xfc\0\x0a\x08\xff \0\x17\xff\0\0\xde\xfe\x1f", 28);
    write_bytes(t / "a.jpg", bytes + std::string(600, '\xff'));
    const auto read = read_metadata(t / "a.jpg");
    REQUIRE_FALSE(read);
    CHECK_THAT(read.error().text(), Catch::Contains("video"));
    CHECK(camera_thumbnail_bytes(t / "a.jpg").jpeg.empty());
    write_bytes(t / "b.jpg", "RIFF" + std::string("\x40\0\0\0", 4) + "AVI LIST" + std::string(80, '\xff'));
    CHECK_FALSE(read_metadata(t / "b.jpg"));
}

}
