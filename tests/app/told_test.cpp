// What goes wrong beside what a person does is told in the window, with what to do.
#include "app/window/notice_bar.h"
#include "tests/app/person.h"
#include "tests/support/catch.h"
#include "tests/support/photos.h"

#include <QLabel>

#include <algorithm>

using namespace frenlo;
using namespace frenlo::test;

namespace FRENLO_THIS_SOURCE {

namespace {

std::string notice(Person& p)
{
    return p.window().findChild<app::NoticeBar*>()->text().toStdString();
}

}

TEST_CASE("damaged work that was kept is told at the start, and thrown away on demand", "[window][recovery][bad]")
{
    Person p;
    const auto kept = p.places().recovery / "1-2.frenlo";
    std::filesystem::create_directories(kept.parent_path());
    write_bytes(kept, "{\"frenlo\": 1, ");
    p.kill_and_restart();
    p.wait_until([&] { return !notice(p).empty(); }, QStringLiteral("it is told"));
    CHECK(notice(p).find(kept.native()) != std::string::npos);
    CHECK_FALSE(p.sees(QStringLiteral("Take it back")));
    p.click(QStringLiteral("Throw it away"));
    p.wait_until([&] { return !std::filesystem::exists(kept); }, QStringLiteral("it is gone"));
}

TEST_CASE("that an export cannot be tried out is told, and it can be made all the same", "[window][export][bad]")
{
    Person p;
    write_run(p.folder() / "s", "s", 3, {64, 48});
    p.bring_in(p.folder() / "s");
    p.wait_for_pictures();
    const QByteArray usual = qgetenv("TMPDIR");
    qputenv("TMPDIR", app::to_qt(p.folder() / "nowhere").toUtf8());
    p.key(Qt::Key_7, Qt::ControlModifier);
    p.type_into(QStringLiteral("File"), app::to_qt(p.folder() / "f.mp4"));
    const auto told = [&] {
        const auto labels = p.window().findChildren<QLabel*>();
        return std::any_of(labels.begin(), labels.end(), [](const QLabel* l) {
            return l->isVisible() && l->text().contains(QStringLiteral("Set TMPDIR"));
        });
    };
    p.wait_until(told, QStringLiteral("it is told"));
    usual.isEmpty() ? qunsetenv("TMPDIR") : qputenv("TMPDIR", usual);
    CHECK(p.find(QStringLiteral("Export the film"))->isEnabled());
}

}
