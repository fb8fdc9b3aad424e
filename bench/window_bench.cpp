#include "app/sheet/sheet_view.h"
#include "bench/longest_block.h"
#include "bench/measure.h"
#include "tests/app/person.h"

#include <QElapsedTimer>
#include <QScrollBar>

#include <algorithm>
#include <iostream>

namespace frenlo::bench {

using test::Person;

namespace {

}

void bench_window(const std::filesystem::path& folder, int count)
{
    std::cout << "the window with a shot of " << count << " photos of 24 megapixels: opened, scrolled, played\n";
    Person p;
    QApplication::processEvents();
    LongestBlock block;
    p.bring_in(folder);
    std::cout << "  longest block while it opens " << block.longest_ms << " ms (aim: under 50)\n";
    block.forget();
    auto* sheet = p.window().findChild<app::SheetView*>();
    for (int i = 0; i <= 100; ++i) {
        sheet->verticalScrollBar()->setValue(sheet->verticalScrollBar()->maximum() * i / 100);
        QTest::qWait(15);
    }
    std::cout << "  longest block while it scrolls " << block.longest_ms << " ms\n";
    p.key(Qt::Key_2, Qt::ControlModifier);
    block.forget();
    p.key(Qt::Key_Space);
    QTest::qWait(6000);
    std::cout << "  longest block while it plays " << block.longest_ms << " ms\n";
    p.key(Qt::Key_Space);
    p.key(Qt::Key_A, Qt::ControlModifier);
    block.forget();
    p.key(Qt::Key_2);
    QTest::qWait(500);
    std::cout << "  longest block at an edit of all holds " << block.longest_ms << " ms\n"
              << "  peak memory " << memory_mb("VmHWM") << " MB (aim: under 1000)\n";
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
              << " s (aim: 1), all looked at after " << double(time.elapsed()) / 1000 << " s\n  longest block "
              << block.longest_ms << " ms (aim: under 50)\n";
    block.forget();
    for (int i = 0; i <= 200; ++i) {
        sheet->verticalScrollBar()->setValue(sheet->verticalScrollBar()->maximum() * i / 200);
        QTest::qWait(15);
    }
    std::cout << "  longest block while it scrolls " << block.longest_ms << " ms\n";
    block.forget();
    p.key(Qt::Key_A, Qt::ControlModifier);
    p.key(Qt::Key_X);
    p.key(Qt::Key_X);
    QTest::qWait(300);
    std::cout << "  longest block at setting all aside and back " << block.longest_ms << " ms\n  memory now "
              << memory_mb("VmRSS") << " MB, at most " << memory_mb("VmHWM") << " MB (aim: under 1000)\n";
}

}
