#include "core/source/camera_thumbnail.h"
#include "core/source/decode.h"
#include "core/source/metadata.h"
#include "core/source/photo_source.h"
#include "core/steps/sort/scan.h"
#include "tests/support/catch.h"
#include "tests/support/photos.h"
#include "tests/support/temp_folder.h"

#include <nlohmann/json.hpp>
#include <opencv2/imgproc.hpp>

#include <set>

using namespace frenlo;
using namespace frenlo::test;

namespace FRENLO_THIS_SOURCE {

namespace {

ScanResult scan_folder(const std::filesystem::path& folder, PhotoOrder order = PhotoOrder::by_name)
{
    const std::array places{folder};
    return scan(places, {.order = order}, {});
}

std::vector<std::string> names(const ScanResult& r)
{
    std::vector<std::string> list;
    for (const auto& p : r.photos)
        list.push_back(p.photo->file.filename().native());
    return list;
}

bool has(const ScanResult& r, FindingKind kind, const std::string& file)
{
    for (const auto& f : r.findings)
        for (const auto& name : f.files)
            if (f.kind == kind && name.filename() == file)
                return true;
    return false;
}

/// Four quarters of different colour, so that every turn and mirror image differs.
cv::Mat quarters()
{
    cv::Mat m(64, 96, CV_8UC3);
    m(cv::Rect(0, 0, 48, 32)).setTo(cv::Scalar(0, 0, 255));
    m(cv::Rect(48, 0, 48, 32)).setTo(cv::Scalar(0, 255, 0));
    m(cv::Rect(0, 32, 48, 32)).setTo(cv::Scalar(255, 0, 0));
    m(cv::Rect(48, 32, 48, 32)).setTo(cv::Scalar(255, 255, 255));
    return m;
}

}

TEST_CASE("a folder is found in natural order with times, sizes and orientation", "[scan]")
{
    TempFolder t;
    write_jpeg(t / "boat 10.jpg", painted({96, 64}, 1), ExifWish{"2026:05:03 10:42:11", "25", 1, false});
    write_jpeg(t / "boat 9.jpg", painted({96, 64}, 2), ExifWish{"2026:05:03 10:42:10", "", 6, false});
    write_picture(t / "boat 11.png", painted({30, 20}, 3));
    const auto r = scan_folder(t.path());
    REQUIRE(names(r) == std::vector<std::string>{"boat 9.jpg", "boat 10.jpg", "boat 11.png"});
    CHECK(r.photos[0].photo->size == cv::Size(64, 96)); // turned: seen upright
    CHECK(r.photos[0].photo->orientation == 6);
    CHECK(r.photos[1].photo->captured->text() == "2026-05-03T10:42:11.250");
    CHECK_FALSE(r.photos[2].photo->captured);
    REQUIRE(r.shots.size() == 1);
    CHECK(r.shots[0].end - r.shots[0].begin == 3);
}

TEST_CASE("by time, photos without a time come last and equal times go by name", "[scan]")
{
    TempFolder t;
    write_jpeg(t / "a1.jpg", painted({32, 32}, 1));
    write_jpeg(t / "a2.jpg", painted({32, 32}, 2), ExifWish{"2026:05:03 10:00:02", "", 1, false});
    write_jpeg(t / "a3.jpg", painted({32, 32}, 3), ExifWish{"2026:05:03 10:00:01", "500", 1, false});
    write_jpeg(t / "a4.jpg", painted({32, 32}, 4), ExifWish{"2026:05:03 10:00:01", "499", 1, false});
    const auto r = scan_folder(t.path(), PhotoOrder::by_time);
    CHECK(names(r) == std::vector<std::string>{"a4.jpg", "a3.jpg", "a2.jpg", "a1.jpg"});
    CHECK(has(r, FindingKind::order_disagrees, "a3.jpg"));
}

TEST_CASE("capture times are what exiftool reads", "[scan][exiftool]")
{
    TempFolder t;
    write_jpeg(t / "p.jpg", painted({40, 30}, 1), ExifWish{"2026:12:31 23:59:59", "987", 8, false});
    const auto m = read_metadata(t / "p.jpg");
    REQUIRE(m);
    const auto exif = nlohmann::json::parse(output_of("exiftool -j -n " + quoted((t / "p.jpg").native())));
    CHECK(exif[0].at("ImageWidth") == m->stored_size.width);
    CHECK(exif[0].at("Orientation") == m->orientation);
    CHECK(exif[0].at("SubSecDateTimeOriginal").get<std::string>() == "2026:12:31 23:59:59.987");
    CHECK(m->captured->text() == "2026-12-31T23:59:59.987");
    CHECK(parse_capture_time(m->captured->text()) == m->captured);
}

TEST_CASE("exposure, lens and camera are what exiftool wrote and reads", "[scan][exiftool]")
{
    TempFolder t;
    write_jpeg(t / "p.jpg", painted({40, 30}, 1), ExifWish{"2026:05:03 10:00:00", "", 1, false});
    output_of("exiftool -q -overwrite_original -Make=Quayside -Model=Q1 -ExposureTime=1/50 -FNumber=5.6 -ISO=400 "
              "-FocalLength=35 " +
              quoted((t / "p.jpg").native()));
    const auto photo = scanned(t / "p.jpg");
    const auto exif = nlohmann::json::parse(output_of("exiftool -j -n " + quoted((t / "p.jpg").native())))[0];
    CHECK(photo->exposure.seconds == Fraction(1, 50));
    CHECK(photo->exposure.seconds->approx() == Approx(exif.at("ExposureTime").get<double>()));
    CHECK(photo->exposure.f_number->approx() == Approx(exif.at("FNumber").get<double>()));
    CHECK(*photo->exposure.iso == exif.at("ISO").get<int>());
    CHECK(photo->exposure.focal_mm->approx() == Approx(exif.at("FocalLength").get<double>()));
    CHECK(photo->camera == "Quayside Q1");
}

TEST_CASE("transparency is told by the header as the decoder finds it", "[scan]")
{
    TempFolder t;
    const cv::Mat alpha(30, 40, CV_8UC4, cv::Scalar(10, 20, 30, 128));
    for (const char* ending : {".png", ".tif", ".webp"}) {
        write_picture(t / (std::string("clear") + ending), alpha);
        write_picture(t / (std::string("plain") + ending), painted({40, 30}, 3));
        CAPTURE(ending);
        CHECK(scanned(t / (std::string("clear") + ending))->alpha);
        CHECK_FALSE(scanned(t / (std::string("plain") + ending))->alpha);
        CHECK(decode(*scanned(t / (std::string("clear") + ending)))->pixels.channels() == 4);
    }
}

TEST_CASE("any one photo stands for its run", "[scan]")
{
    TempFolder t;
    write_run(t.path(), "ferry", 5, {32, 24});
    write_run(t.path(), "other", 3, {32, 24});
    const std::array one{t / "ferry_0003.jpg"};
    const auto r = scan(one, {}, {});
    CHECK(r.photos.size() == 5);
    CHECK(r.photos.front().photo->file.filename() == "ferry_0001.jpg");
}

TEST_CASE("each problem of a folder is found, named, and hurts nothing else", "[scan][bad]")
{
    TempFolder t;
    write_run(t.path(), "ferry", 6, {96, 64});
    std::filesystem::remove(t / "ferry_0004.jpg"); // a number is missing
    write_bytes(t / "ferry_0007.jpg", "");
    write_bytes(t / "ferry_0008.jpg", "shopping list: paper, glue");
    const std::string whole = read_bytes(t / "ferry_0002.jpg");
    write_bytes(t / "ferry_0009.jpg", whole.substr(0, whole.size() * 6 / 10));
    write_bytes(t / "ferry_0010.jpg", whole); // the same photo again
    write_jpeg(t / "ferry_0011.jpg", painted({64, 96}, 11));
    write_jpeg(t / "ferry_0012.jpg", painted({80, 64}, 12));
    write_picture(t / "ferry_0012.png", painted({96, 64}, 13));
    write_bytes(t / "notes.txt", "not named as a photo: no word about it");
    write_bytes(t / ".hidden.jpg", "nor this");
    const auto r = scan_folder(t.path());
    CHECK(has(r, FindingKind::number_missing, "ferry_0003.jpg"));
    CHECK(has(r, FindingKind::empty, "ferry_0007.jpg"));
    CHECK(has(r, FindingKind::not_a_photo, "ferry_0008.jpg"));
    CHECK(has(r, FindingKind::unreadable, "ferry_0009.jpg"));
    CHECK(has(r, FindingKind::copy, "ferry_0010.jpg"));
    CHECK(has(r, FindingKind::turned, "ferry_0011.jpg"));
    CHECK(has(r, FindingKind::size_differs, "ferry_0012.jpg"));
    CHECK(has(r, FindingKind::number_repeated, "ferry_0012.png"));
    CHECK(r.aside.size() == 3);
    REQUIRE(r.shots.size() == 1);
    CHECK(r.shots[0].begin == 0);
    for (const auto& f : r.findings)
        CHECK(f.text.ends_with('.'));
}

TEST_CASE("a folder without photos gives nothing, and a place that is not there is an error", "[scan][bad]")
{
    TempFolder t;
    CHECK(scan_folder(t.path()).photos.empty());
    CHECK_THROWS_AS(scan_folder(t / "nowhere"), Failure);
}

TEST_CASE("awkward names and sizes are photos like others", "[scan][bad]")
{
    TempFolder t;
    for (const char* name : {"it's “one”.jpg", "käse ⛵.jpg", "k\xE4se.jpg", "- %d $(x) \n.jpg"})
        write_jpeg(t / name, painted({24, 16}, 1));
    write_jpeg(t / "one pixel.jpg", painted({1, 1}, 1));
    write_jpeg(t / "wide.jpg", cv::Mat(40, 20'000, CV_8UC3, cv::Scalar(10, 120, 200)));
    const auto r = scan_folder(t.path());
    CHECK(r.photos.size() == 6);
    for (const auto& p : r.photos) {
        CHECK(p.state == PhotoState::fine);
        const auto d = decode(*p.photo, cv::Size(100, 10));
        REQUIRE(d);
        CHECK(d->flaw.empty());
        CHECK(d->pixels.cols >= std::min(100, p.photo->size.width));
    }
}

TEST_CASE("stopping a scan stops it", "[scan]")
{
    TempFolder t;
    write_run(t.path(), "ferry", 3, {16, 16});
    std::stop_source stop;
    stop.request_stop();
    const std::array places{t.path()};
    CHECK_THROWS_AS(scan(places, {}, Job(stop.get_token())), Stopped);
}

TEST_CASE("all eight Exif orientations are seen upright", "[decode]") // Exif 2.32, tag 0x0112
{
    TempFolder t;
    const int orientation = GENERATE(1, 2, 3, 4, 5, 6, 7, 8);
    const auto file = t / "o.jpg";
    // ImageMagick's -auto-orient is the other opinion.
    write_jpeg(file, quarters(), ExifWish{"", "", orientation, false});
    output_of("/usr/bin/convert " + quoted(file.native()) + " -auto-orient " + quoted((t / "upright.png").native()));
    const auto mine = decode(*scanned(file));
    const auto theirs = decode(*scanned(t / "upright.png"));
    REQUIRE(mine);
    REQUIRE(theirs);
    REQUIRE(mine->pixels.size() == theirs->pixels.size());
    CHECK(cv::norm(mine->pixels, theirs->pixels, cv::NORM_L1) / double(mine->pixels.total()) < 6); // two JPEG decoders
}

TEST_CASE("8 and 16 bit, with and without alpha, are read as they are", "[decode]")
{
    TempFolder t;
    cv::Mat deep;
    painted({40, 30}, 5).convertTo(deep, CV_16U, 257.0);
    cv::Mat alpha(30, 40, CV_8UC4, cv::Scalar(10, 20, 30, 128));
    for (const char* ending : {".png", ".tif"}) {
        write_picture(t / (std::string("deep") + ending), deep);
        write_picture(t / (std::string("alpha") + ending), alpha);
        const auto d = decode(*scanned(t / (std::string("deep") + ending)));
        REQUIRE(d);
        CHECK(d->pixels.type() == CV_16UC3);
        CHECK(cv::norm(d->pixels, deep, cv::NORM_INF) == 0);
        const auto a = decode(*scanned(t / (std::string("alpha") + ending)));
        REQUIRE(a);
        CHECK(a->pixels.type() == CV_8UC4);
        CHECK(a->pixels.at<cv::Vec4b>(3, 3) == cv::Vec4b(10, 20, 30, 128));
    }
    write_picture(t / "p.webp", painted({40, 30}, 6));
    CHECK(decode(*scanned(t / "p.webp"))->pixels.size() == cv::Size(40, 30));
}

TEST_CASE("a cut-off JPEG gives what there is, with its flaw, and a cut-off PNG is a problem", "[decode][bad]")
{
    TempFolder t;
    write_jpeg(t / "a.jpg", painted({200, 150}, 1));
    const std::string jpeg = read_bytes(t / "a.jpg");
    const auto half = decode_bytes(jpeg.substr(0, jpeg.size() / 2), 1, {}, "a.jpg");
    REQUIRE(half);
    CHECK(half->flaw == "the file is cut off");
    write_picture(t / "a.png", painted({200, 150}, 1));
    const std::string png = read_bytes(t / "a.png");
    const auto cut = decode_bytes(png.substr(0, png.size() / 2), 1, {}, "a.png");
    REQUIRE_FALSE(cut);
    CHECK_THAT(cut.error().text(), Catch::Contains("a.png") && Catch::Contains("Copy it"));
}

TEST_CASE("the decoder's own scaling never goes below what is asked for", "[decode]")
{
    TempFolder t;
    write_jpeg(t / "a.jpg", painted({803, 601}, 1));
    const auto photo = scanned(t / "a.jpg");
    for (const cv::Size wish :
         {cv::Size(100, 70), cv::Size(101, 76), cv::Size(402, 301), cv::Size(403, 100), cv::Size(900, 900)}) {
        const auto d = decode(*photo, wish);
        REQUIRE(d);
        CHECK(d->pixels.cols >= std::min(wish.width, 803));
        CHECK(d->pixels.rows >= std::min(wish.height, 601));
    }
    CHECK(decode(*photo, {100, 70})->pixels.cols == (803 + 7) / 8);
}

TEST_CASE("the camera's thumbnail is shown without its black bars", "[previews]")
{
    TempFolder t;
    write_jpeg(t / "p.jpg", painted({240, 160}, 1), ExifWish{"", "", 1, true});
    const cv::Mat thumb = camera_thumbnail(*scanned(t / "p.jpg"));
    REQUIRE_FALSE(thumb.empty());
    CHECK(thumb.size() == cv::Size(160, 107)); // 160x120 of DCF, cut to 3:2
    CHECK(camera_thumbnail(*scanned(t / "p.jpg")).type() == CV_8UC3);
}

TEST_CASE("previews are made once, kept on disk within the limit, and made anew when the photo changes", "[previews]")
{
    TempFolder t;
    write_jpeg(t / "p.jpg", painted({1600, 1000}, 1));
    PreviewStore store(t / "cache", 10'000'000);
    const Previews previews(store);
    const auto photo = scanned(t / "p.jpg");
    CHECK_FALSE(previews.ready(*photo, PreviewKind::preview));
    REQUIRE(previews.get(*photo, PreviewKind::preview));
    CHECK(previews.ready(*photo, PreviewKind::preview));
    CHECK(previews.ready(*photo, PreviewKind::thumbnail)); // came along
    CHECK(previews.get(*photo, PreviewKind::preview)->size() == cv::Size(1280, 800));
    CHECK(previews.get(*photo, PreviewKind::thumbnail)->size() == cv::Size(384, 240));

    auto changed = *photo;
    changed.modified_ns += 1;
    CHECK_FALSE(previews.ready(changed, PreviewKind::preview));

    const std::string a_lot(40'000, 'x');
    PreviewStore small(t / "small", 200'000);
    for (int i = 0; i < 20; ++i)
        small.put(short_key(std::to_string(i)), a_lot);
    std::uintmax_t kept = 0;
    for (const auto& e : std::filesystem::recursive_directory_iterator(t / "small"))
        kept += e.is_regular_file() ? e.file_size() : 0;
    CHECK(kept <= 200'000);
    CHECK(small.get(short_key("19")) == a_lot);
}

TEST_CASE("what is measured of a large photo comes from its small version, and one that is cut off stays refused",
          "[previews]")
{
    TempFolder t;
    const cv::Mat large = painted({2400, 1600}, 1);
    write_jpeg(t / "p.jpg", large);
    PreviewStore store(t / "cache", 10'000'000);
    const SmallVersions photos(store);
    const auto photo = scanned(t / "p.jpg");
    const auto first = photos.pixels(*photo, {1200, 800}, Damage::refuse);
    REQUIRE(first);
    CHECK(first->size() == cv::Size(1280, 853));
    CHECK(Previews(store).ready(*photo, PreviewKind::preview));
    const auto original = Originals().pixels(*photo, {1200, 800}, Damage::refuse);
    REQUIRE(original);
    const cv::Scalar brightness = cv::mean(*first), as_decoded = cv::mean(*original);
    for (int c = 0; c < 3; ++c)
        CHECK(brightness[c] == Approx(as_decoded[c]).margin(0.1));
    CHECK(photos.pixels(*photo, {}, Damage::refuse)->size() == large.size()); // more than a preview has
    CHECK(photos.pixels(*photo, {1300, 800}, Damage::refuse)->cols >= 1300);

    std::filesystem::rename(t / "p.jpg", t / "elsewhere.jpg");
    const auto again = photos.pixels(*photo, {1200, 800}, Damage::refuse); // nothing needs to be decoded
    REQUIRE(again);
    CHECK(cv::PSNR(*again, *first) > 40); // as a JPEG of quality 95 keeps it

    std::filesystem::rename(t / "elsewhere.jpg", t / "cut.jpg");
    std::filesystem::resize_file(t / "cut.jpg", std::filesystem::file_size(t / "cut.jpg") * 2 / 3);
    const auto cut = scanned(t / "cut.jpg");
    REQUIRE(Previews(store).get(*cut, PreviewKind::preview)); // the screen shows what there is
    for (int round = 0; round < 2; ++round) {
        const auto refused = photos.pixels(*cut, {1200, 800}, Damage::refuse);
        REQUIRE_FALSE(refused);
        CHECK_THAT(refused.error().text(), Catch::Contains("cut.jpg") && Catch::Contains("Copy it"));
    }
    CHECK(photos.pixels(*cut, {1200, 800}, Damage::accept));

    write_jpeg(t / "small.jpg", painted({900, 600}, 2)); // soon decoded: as it is
    const auto small = scanned(t / "small.jpg");
    CHECK(cv::norm(*photos.pixels(*small, {600, 400}, Damage::refuse),
                   *Originals().pixels(*small, {600, 400}, Damage::refuse), cv::NORM_INF) == 0);
    CHECK_FALSE(Previews(store).ready(*small, PreviewKind::preview));
}

}
