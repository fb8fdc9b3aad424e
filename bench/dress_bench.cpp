#include "bench/measure.h"
#include "core/export/export.h"
#include "core/picture/picture.h"
#include "core/source/inspect.h"
#include "core/steps/frame/frame_edits.h"
#include "core/steps/frame/framing.h"
#include "core/steps/layers/bring_picture_in.h"
#include "core/steps/layers/layer_edits.h"
#include "core/steps/retouch/retouch_edits.h"
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

/// A picture that moves with its shadow, text, a drawing on every photo, and ten spots healed.
Project covered(Project p, const std::filesystem::path& sign)
{
    const LayerHome home{p.shot(first).id};
    WithLayer picture = add_picture_layer(p, home, picture_shot(sign));
    p = change_layer(picture.project, home, picture.layer, [](Layer& l) {
        l.keys = {{.x = 0.2, .y = 0.3, .size = 0.3},
                  {.at = {Fraction(1, 3)}, .x = 0.8, .y = 0.6, .size = 0.4, .turn = 20}};
        l.shadow = LayerShadow();
    });
    p = add_text_layer(p, home, "A harbour in May").project;
    const WithLayer drawing = add_drawing_layer(p, home, "d");
    p = drawing.project;
    for (const ShotPhoto& photo : p.shot(first).photos)
        p = add_stroke(p, home, drawing.layer, photo.id,
                       {.colour = {255, 255, 255}, .width = 0.01, .points = {0.1, 0.2, 1, 0.4, 0.3, 1, 0.5, 0.1, 0.5}});
    for (int i = 0; i < 10; ++i) {
        Spot spot;
        spot.keys = {{p.shot(first).photos[0].id, {0.08 + 0.09 * i, 0.2 + 0.06 * i}}};
        spot.radius = 0.008;
        spot.offset = {0.03, 0.01};
        p = add_spot(p, first, spot).project;
    }
    return p;
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
    test::write_picture(t / "sign.png", test::painted({800, 600}, 5));
    const Project with_layers = covered(plain, t / "sign.png");
    std::cout << "  export, with three layers and ten spots, against plain: "
              << ratio_of([&] { exported(with_layers); }, [&] { exported(plain); }) << " (aim: at most 1.5)\n";
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
