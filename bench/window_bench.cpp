#include "app/picture/picture_view.h"
#include "app/sheet/sheet_view.h"
#include "bench/longest_block.h"
#include "bench/measure.h"
#include "tests/app/person.h"

#include <QElapsedTimer>
#include <QScrollBar>

#include <algorithm>
#include <cmath>
#include <iostream>
#include <vector>

namespace frenlo::bench {

using test::Person;

namespace {

/// From a click on a photo of the Sheet until the large picture shows it, milliseconds, of many the middle one.
double click_to_picture(Person& p, int photos)
{
    auto* sheet = p.window().findChild<app::SheetView*>();
    auto* picture = p.window().findChild<app::PictureView*>();
    std::vector<double> times;
    constexpr int clicks = 40;
    for (int i = 0; i < clicks; ++i) {
        const int photo = 1 + i * 37 % std::min(photos, 60);
        QElapsedTimer time;
        time.start();
        p.click_photo(photo);
        const auto shows = [&] {
            const auto requests = picture->requests();
            return !requests.empty() &&
                   requests.front().photo() == p.window().viewing().shot()->photos[std::size_t(photo - 1)].photo &&
                   !p.window().loader().best(requests.front()).isNull();
        };
        while (!shows() && time.elapsed() < 60'000) // QTest's own waiting sleeps for 10 ms between looks
            QApplication::processEvents();
        picture->repaint();
        times.push_back(double(time.nsecsElapsed()) / 1e6);
        sheet->setFocus();
    }
    std::nth_element(times.begin(), times.begin() + clicks / 2, times.end());
    return times[clicks / 2];
}

}

void bench_window(const std::filesystem::path& folder, int count)
{
    std::cout << "the window with a shot of " << count << " photos of 24 megapixels: opened, scrolled, played\n";
    Person p;
    QApplication::processEvents();
    LongestBlock block;
    p.bring_in(folder);
    std::cout << "  longest block while it opens " << block << " (aim: under 20)\n";
    block.forget();
    auto* sheet = p.window().findChild<app::SheetView*>();
    for (int i = 0; i <= 100; ++i) {
        sheet->verticalScrollBar()->setValue(sheet->verticalScrollBar()->maximum() * i / 100);
        QTest::qWait(15);
    }
    std::cout << "  longest block while it scrolls " << block << "\n";
    p.key(Qt::Key_2, Qt::ControlModifier);
    block.forget();
    p.key(Qt::Key_Space);
    QTest::qWait(6000);
    std::cout << "  longest block while it plays " << block << "\n";
    p.key(Qt::Key_Space);
    block.forget();
    std::cout << "  from a click to the changed picture " << click_to_picture(p, count)
              << " ms, the middle of 40 (aim: 50); longest block " << block << "\n";
    p.key(Qt::Key_A, Qt::ControlModifier);
    block.forget();
    p.key(Qt::Key_2);
    QTest::qWait(500);
    std::cout << "  longest block at an edit of all holds " << block << "\n"
              << "  peak memory " << memory_mb("VmHWM") << " MB (aim: under 1000)\n";
}

/// From a move of the pen to the painted stroke.
void bench_stroke(const std::filesystem::path& folder)
{
    Person p;
    p.bring_in(folder);
    p.window().viewing().set_step("layers");
    p.wait_for_pictures();
    p.click(QStringLiteral("Draw"));
    p.wait_for_pictures();
    auto* view = p.window().findChild<app::PictureView*>();
    struct Paints : QObject
    {
        int count = 0;
        bool eventFilter(QObject*, QEvent* e) override
        {
            count += e->type() == QEvent::Paint;
            return false;
        }
    } paints;
    view->installEventFilter(&paints);
    const QPoint middle = view->rect().center();
    QTest::mousePress(view, Qt::LeftButton, {}, middle);
    std::vector<double> times;
    constexpr int moves = 200;
    for (int i = 0; i < moves; ++i) {
        const double turn = 0.1 * i;
        const QPoint at = middle + QPoint(int(1.2 * i * std::cos(turn) / 2), int(0.8 * i * std::sin(turn) / 2));
        const int before = paints.count;
        QElapsedTimer time;
        time.start();
        QTest::mouseMove(view, at);
        while (paints.count == before && time.elapsed() < 1000)
            QApplication::processEvents();
        times.push_back(double(time.nsecsElapsed()) / 1e6);
    }
    QTest::mouseRelease(view, Qt::LeftButton, {}, middle);
    std::sort(times.begin(), times.end());
    std::cout << "  a stroke of " << moves << " points on a photo of 24 megapixels follows the pen within "
              << times[moves / 2] << " ms, at worst " << times.back() << " (aim: at most 30)\n";
}

void bench_card_in_window(const std::filesystem::path& folder, int count)
{
    std::cout << "the window with a card of " << count << " photos\n";
    Person p;
    QApplication::processEvents();
    LongestBlock block;
    QElapsedTimer time;
    time.start();
    p.window().take_in({folder});
    p.wait_until([&] { return !p.window().session().is_empty(); }, QStringLiteral("the first photos are there"));
    const double first = double(time.elapsed()) / 1000;
    auto* sheet = p.window().findChild<app::SheetView*>();
    const auto tiles = [&] {
        app::ViewState s;
        sheet->describe(s);
        const Shot& shot = *p.window().viewing().shot();
        return std::all_of(s.visible.begin(), s.visible.end(), [&](PhotoIndex photo) {
            return !p.window().loader().best(app::tile_request(shot, photo, s.tile_size)).isNull();
        });
    };
    p.wait_until(tiles, QStringLiteral("what is seen is there"), 120'000);
    const double seen = double(time.elapsed()) / 1000;
    p.wait_until([&] { return !p.window().session().busy(); }, QStringLiteral("all are in"), 300'000);
    std::cout << "  first photos on the Sheet after " << first << " s, all tiles that are seen after " << seen
              << " s (aim: 1), all looked at after " << double(time.elapsed()) / 1000 << " s\n  longest block " << block
              << " (aim: under 20)\n";
    block.forget();
    for (int i = 0; i <= 200; ++i) {
        sheet->verticalScrollBar()->setValue(sheet->verticalScrollBar()->maximum() * i / 200);
        QTest::qWait(15);
    }
    std::cout << "  longest block while it scrolls " << block << "\n";
    block.forget();
    p.key(Qt::Key_A, Qt::ControlModifier);
    p.key(Qt::Key_X);
    p.key(Qt::Key_X);
    QTest::qWait(300);
    std::cout << "  longest block at setting all aside and back " << block << "\n  memory now " << memory_mb("VmRSS")
              << " MB, at most " << memory_mb("VmHWM") << " MB (aim: under 1000)\n";
}

}
