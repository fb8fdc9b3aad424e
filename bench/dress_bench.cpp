#include "bench/measure.h"
#include "core/export/export.h"
#include "core/picture/picture.h"
#include "core/source/inspect.h"
#include "core/steps/frame/frame_edits.h"
#include "core/steps/frame/framing.h"
#include "core/steps/sort/scan_edits.h"
#include "core/steps/tone/tone_edits.h"
#include "core/timeline/timeline.h"
#include "tests/support/photos.h"
#include "tests/support/temp_folder.h"

#include <opencv2/core.hpp>

#include <algorithm>
#include <functional>
#include <iostream>
#include <random>
#include <vector>

namespace frenlo::bench {

using test::TempFolder;

namespace {

constexpr ShotIndex first{0};

/// The middle of several runs, in turns with plain, so that a ratio holds on a noisy machine.
double ratio_of(const std::function<void()>& work, const std::function<void()>& plain)
{
    std::vector<double> ratios;
    for (int i = 0; i < 5; ++i) {
        const double a = seconds(work), b = seconds(plain);
        ratios.push_back(a / b);
    }
    std::sort(ratios.begin(), ratios.end());
    return ratios[ratios.size() / 2];
}

void render_all(const Project& p, const PhotoSource& source)
{
    const auto film = film_of(p, first);
    for (std::int64_t f = 0; f < film->frames(); ++f)
        (void)render(film->frame(FrameIndex(f), {.size = {1920, 1080}}), source);
}

}

void bench_dress(const std::filesystem::path& folder)
{
    const std::array places{folder};
    Project plain = add_scanned({}, scan(places, {.looking = Looking::at_headers, .one_shot = true}, {}),
                                Hold(Frames{1}), Division::one_shot, "s");
    auto few = std::make_shared<Shot>(plain.shot(first)); // as many as a bench has time for
    if (few->photos.size() > 8)
        few->photos.keep(0, 8);
    plain.shots[0] = few;
    plain = change_framing(plain, first, [](Framing& f) { f.shape = *parse_shape("16:9"); });
    const auto last = PhotoIndex(std::int64_t(few->photos.size()) - 1);
    Project drifting = set_view(plain, first, PhotoIndex(0), DriftView{{0, 0, 1, 0.84}, 0});
    const Project closer = set_view(drifting, first, last, DriftView{{0.3, 0.2, 0.5, 0.42}, 3});
    drifting = set_view(drifting, first, last, DriftView{{0.1, 0.06, 0.84, 0.7056}, 0});
    const Project miniature = change_framing(plain, first, [](Framing& f) { f.miniature = Miniature(); });
    const Project looks = change_framing(drifting, first, [](Framing& f) {
        f.bars = Letterbox();
        f.fades.out = {Fraction(1)};
        f.grain = Grain();
    });
    const Project toned = set_anchor(plain, first, PhotoIndex(0), {.exposure = 0.3, .contrast = 20});
    const Originals source;
    TempFolder t;
    const auto exported = [&](const Project& p) {
        ExportOrder order;
        order.preset = *find_preset("film");
        order.file = t / "film.mp4";
        order.overwrite = true;
        run_export(p, order, source, {});
    };
    std::cout << "dressed frames of " << few->photos.size() << " photos of 24 megapixels, 1080p\n";
    std::cout << "  export, drifting through two views, against plain: "
              << ratio_of([&] { exported(drifting); }, [&] { exported(plain); }) << " (aim: at most 1.15)\n";
    std::cout << "  export, drifting to half of the photo, turned by 3 degrees, which is decoded larger: "
              << ratio_of([&] { exported(closer); }, [&] { exported(plain); }) << " (no aim)\n";
    std::cout << "  export, with bars, fade and grain as well: "
              << ratio_of([&] { exported(looks); }, [&] { exported(plain); }) << " (no aim)\n";
    std::cout << "  export, toned, against plain: " << ratio_of([&] { exported(toned); }, [&] { exported(plain); })
              << " (aim: at most 1.25)\n";
    std::cout << "  a miniature, rendered, against plain: "
              << ratio_of([&] { render_all(miniature, source); }, [&] { render_all(plain, source); })
              << " (aim: at most 1.5)\n";
}

void bench_clips()
{
    std::cout << "pictures of clips by seeking, 200 at random each, against decoding all from the start\n";
    TempFolder t;
    struct Kind
    {
        const char* name;
        const char* how;
    };
    for (const Kind& k :
         {Kind{"h264.mp4", "-c:v libx264 -g 48 -bf 3 -pix_fmt yuv420p"},
          Kind{"h265.mkv", "-c:v libx265 -x265-params log-level=none:keyint=48:bframes=4 -pix_fmt yuv420p"},
          Kind{"mpeg2.mpg", "-c:v mpeg2video -g 15 -bf 2 -b:v 4M"}}) {
        test::output_of("ffmpeg -v error -y -f lavfi -i testsrc2=size=640x360:rate=30000/1001:duration=10.01 " +
                        std::string(k.how) + " " + test::quoted((t / k.name).native()));
        const Inspected found = inspect(t / k.name);
        if (!found.times)
            continue;
        std::vector<PickedPicture> all;
        for (std::int64_t i = 0; i < found.times->count; ++i)
            all.push_back({i, 1});
        const auto photos = pictures_of(found.photo, *found.times, all);
        std::vector<cv::Mat> in_order;
        OpenFiles files, others;
        const double one_by_one = seconds([&] {
            for (const PhotoPtr& p : photos)
                in_order.push_back(value_or_throw(decode(*p, {}, Numbers::encoded, &files)).pixels);
        });
        std::mt19937 random(7);
        int same = 0;
        constexpr int times = 200;
        const double at_random = seconds([&] {
            for (int i = 0; i < times; ++i) {
                const auto n = random() % photos.size();
                const cv::Mat m = value_or_throw(decode(*photos[n], {}, Numbers::encoded, &others)).pixels;
                same += cv::norm(m, in_order[n], cv::NORM_INF) == 0 ? 1 : 0;
            }
        });
        std::cout << "  " << k.name << ": " << same << " of " << times
                  << " the same (aim: all); a picture at random takes "
                  << at_random / times / (one_by_one / double(photos.size())) << " times one in order\n";
    }
}

}
