// “Where is …?”: every control can be found, every word of the trade leads somewhere, Enter goes there.
#include "app/window/where_is.h"
#include "tests/app/person.h"
#include "tests/support/catch.h"
#include "tests/support/photos.h"

#include <QAbstractButton>
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QTextBlock>
#include <QTextBrowser>

#include <map>
#include <string_view>

using namespace frenlo;
using namespace frenlo::test;

namespace FRENLO_THIS_SOURCE {
using app::WherePlace;

namespace {

QString q(const char* text)
{
    return QString::fromUtf8(text);
}

void bring_some_in(Person& p)
{
    write_run(p.folder() / "s", "s", 4, {64, 48});
    p.bring_in(p.folder() / "s");
    p.wait_for_pictures();
}

}

TEST_CASE("every word of the steps' tables belongs to a control that is there", "[where]")
{
    Person p;
    const auto places = p.window().where_places();
    REQUIRE(places.size() > 150);
    for (const app::StepModule* module : app::step_modules())
        for (const app::WhereWords& one : module->words) {
            INFO(module->info.key << ": " << one.control);
            CHECK(std::any_of(places.begin(), places.end(), [&](const WherePlace& place) {
                return place.step == module->info.key && place.name == QString::fromUtf8(one.control);
            }));
        }
}

TEST_CASE("every control is found by its name, first of all or beside others of that name", "[where]")
{
    Person p;
    const auto places = p.window().where_places();
    for (const WherePlace& place : places) {
        INFO(place.station.toStdString() << ": " << place.name.toStdString());
        const auto found = found_places(places, place.name);
        CHECK(std::any_of(found.begin(), found.end(), [&](const WherePlace* f) { return f == &place; }));
    }
}

TEST_CASE("words of the trade find what they stand for", "[where]")
{
    Person p;
    const auto places = p.window().where_places();
    for (const auto& [word, step] :
         std::initializer_list<std::pair<const char*, const char*>>{{"align", "steady"},
                                                                    {"stabilise", "steady"},
                                                                    {"deflicker", "flicker"},
                                                                    {"slow down", "pace"},
                                                                    {"fps", "pace"},
                                                                    {"ping-pong", "pace"},
                                                                    {"crop", "frame"},
                                                                    {"title", "card"},
                                                                    {"green screen", "layers"},
                                                                    {"dust", "retouch"},
                                                                    {"white balance", "tone"},
                                                                    {"onion skin", "shoot"},
                                                                    {"codec", "export"},
                                                                    {"rename", "sort"},
                                                                    {"crossfade", "reel"},
                                                                    {"bpm", "sound"}}) {
        const auto found = found_places(places, QString::fromUtf8(word));
        INFO(word);
        REQUIRE_FALSE(found.empty());
        bool among_the_first = false;
        for (std::size_t i = 0; i < std::min<std::size_t>(5, found.size()); ++i)
            among_the_first = among_the_first || found[i]->step == step;
        CHECK(among_the_first);
    }
    CHECK(found_places(places, q("xyzzy")).empty());
    CHECK(found_places(places, {}).size() == places.size());
}

TEST_CASE("it goes to a control on another page of another step", "[where]")
{
    Person p;
    bring_some_in(p);
    p.key(Qt::Key_Question, Qt::ShiftModifier);
    p.wait_until([&] { return p.sees(q("What is looked for")); }, q("it is asked"));
    auto* text = p.find<QLineEdit>(q("What is looked for"));
    QTest::keyClicks(text, q("boomerang"));
    CHECK(p.find<QListWidget>(q("Places"))->item(0)->text().contains(q("There and back")));
    QTest::keyClick(text, Qt::Key_Return);
    CHECK(p.window().viewing().is_step("pace"));
    CHECK(p.sees(q("There and back")));
    CHECK(p.find<QAbstractButton>(q("Range and order"))->isChecked());
}

TEST_CASE("one is led to controls of every step, on whichever page they are", "[where]")
{
    Person p;
    bring_some_in(p);
    std::map<std::string, int> seen;
    for (const WherePlace& place : p.window().where_places()) {
        if (!place.control || place.step == "shoot") // which would open a camera
            continue;
        p.window().viewing().set_step(place.step);
        app::show_pages_around(*place.control);
        if (place.control->isVisible())
            ++seen[place.step];
    }
    for (const app::StepModule* module : app::step_modules()) {
        INFO(module->info.key);
        CHECK((seen[module->info.key] >= 3 || std::string_view(module->info.key) == "shoot"));
    }
    CHECK(seen["pace"] > 40); // of all three pages
    CHECK(seen["export"] > 12);
}

TEST_CASE("the guide is there and shows its pictures' places, and what Frenlo stands on is said", "[where]")
{
    Person p;
    p.menu(q("Guide"))->trigger();
    auto* guide = p.find<QTextBrowser>(q("Guide"));
    CHECK(guide->toPlainText().contains(q("Taking the photos here")));
    int pictures = 0;
    for (QTextBlock block = guide->document()->begin(); block.isValid(); block = block.next())
        for (auto it = block.begin(); !it.atEnd(); ++it)
            if (const auto format = it.fragment().charFormat().toImageFormat(); format.isValid()) {
                INFO(format.name().toStdString());
                CHECK_FALSE(
                    guide->loadResource(QTextDocument::ImageResource, QUrl(format.name())).toByteArray().isEmpty());
                ++pictures;
            }
    CHECK(pictures >= 6);
    p.menu(q("About Frenlo"))->trigger();
    QString all;
    for (QWidget* top : QApplication::topLevelWidgets())
        for (const auto* label : top->findChildren<QLabel*>())
            all += label->text();
    CHECK(all.contains(q("GPL-3.0-or-later")));
    CHECK(all.contains(q("OpenCV")));
}

}
