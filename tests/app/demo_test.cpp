// The demo is looked at while it is made.
#include "app/window/notice_bar.h"
#include "app/work/desktop.h"
#include "core/project/project_file.h"
#include "demo/demo.h"
#include "tests/app/person.h"
#include "tests/support/catch.h"

#include <QDBusMessage>
#include <QDBusVariant>
#include <QProcess>
#include <QPushButton>

using namespace frenlo;
using namespace frenlo::test;

namespace FRENLO_THIS_SOURCE {

namespace {

constexpr int patience = 600'000; // painting takes all cores, and others want them

QString q(const char* text)
{
    return QString::fromUtf8(text);
}

std::size_t photos_of_first(Person& p)
{
    const Project& project = p.window().session().project();
    return project.shots.empty() ? 0 : project.shots.front()->photos.size();
}

}

TEST_CASE("the demo opens with its first photos, and what is looked at stays while the rest comes", "[demo]")
{
    Person p;
    p.click(q("Look at the demo"));
    p.wait_until([&] { return photos_of_first(p) >= 8; }, q("the first photos are there"), patience);
    CHECK(photos_of_first(p) < 48); // the others are still to come
    CHECK(p.window().session().project().shots.size() == 1);
    CHECK(p.window().session().saved());
    p.window().viewing().set_step("pace");
    p.click_photo(4);
    const PhotoId looked_at = p.window().session().project().shots.front()->photos[3].id;
    CHECK(p.window().viewing().shot()->photos[p.window().viewing().shown_photo().at()].id == looked_at);

    p.wait_until([&] { return !p.window().session().file().empty(); }, q("it is whole"), patience);
    const Project& whole = p.window().session().project();
    CHECK(whole.shots.size() > 3);
    CHECK(whole.shots.front()->photos.size() == 48);
    CHECK(p.window().session().name() == q("Harbour"));
    CHECK(p.window().session().saved());
    CHECK(p.window().session().undo_name().isEmpty());
    CHECK(p.window().viewing().shot()->photos[p.window().viewing().shown_photo().at()].id == looked_at);
    // It is the file's, to the identities.
    const Project read = load_project(p.window().session().file()).project;
    CHECK(read.shots.front()->id == whole.shots.front()->id);
    CHECK(read.shots.front()->photos[3].id == looked_at);

    // There already: it opens at once.
    const auto start_over = [&] {
        p.window().session().start(p.window().session().fresh_project(), {});
        p.window().show_demo();
    };
    start_over();
    p.wait_until([&] { return p.window().session().name() == q("Harbour"); }, q("it opens again"));

    // Half of it, and something is begun on that: it is kept, and the whole one is offered.
    std::filesystem::remove(p.places().demo / "Harbour.frenlo");
    std::filesystem::remove_all(p.places().demo / "Paper ferry");
    start_over();
    p.wait_until([&] { return photos_of_first(p) >= 8; }, q("the first photos are there again"), patience);
    p.click_photo(2);
    p.key(Qt::Key_5);
    const auto hold = [&] { return p.window().session().project().shots.front()->photos[1].hold; };
    REQUIRE(hold() == Hold(Frames{5}));
    const std::size_t photos = photos_of_first(p);
    p.wait_until([&] { return p.sees(q("Open it")); }, q("the whole one is offered"), patience);
    CHECK(hold() == Hold(Frames{5}));
    CHECK(photos_of_first(p) == photos);
    CHECK(p.window().session().file().empty());
    p.click(q("Open it"));
    QWidget* question = nullptr;
    p.wait_until(
        [&] {
            question = QApplication::activeModalWidget();
            return question != nullptr;
        },
        q("it asks about the work"));
    for (auto* button : question->findChildren<QPushButton*>())
        if (button->text().remove(QLatin1Char('&')).contains(q("Discard")))
            button->click();
    p.wait_until([&] { return p.window().session().name() == q("Harbour"); }, q("the whole one opens"));
    CHECK(p.window().session().project().shots.size() > 3);
}

TEST_CASE("the desktop's wish for dark programs is heard while Frenlo runs", "[desktop]")
{
    QProcess daemon;
    daemon.start(q("dbus-daemon"), {q("--session"), q("--nofork"), q("--print-address")});
    REQUIRE(daemon.waitForStarted());
    REQUIRE(daemon.waitForReadyRead());
    const QString address = QString::fromUtf8(daemon.readLine()).trimmed();
    QDBusConnection desktop = QDBusConnection::connectToBus(address, q("the desktop")),
                    ours = QDBusConnection::connectToBus(address, q("Frenlo"));
    REQUIRE(desktop.isConnected());
    REQUIRE(ours.isConnected());
    REQUIRE(desktop.registerService(q("org.freedesktop.portal.Desktop")));

    app::DesktopScheme scheme(ours);
    int heard = 0;
    QObject::connect(&scheme, &app::DesktopScheme::changed, [&] { ++heard; });
    const auto say = [&](const char* key) {
        QDBusMessage signal = QDBusMessage::createSignal(q("/org/freedesktop/portal/desktop"),
                                                         q("org.freedesktop.portal.Settings"), q("SettingChanged"));
        signal << q("org.freedesktop.appearance") << q(key) << QVariant::fromValue(QDBusVariant(1U));
        REQUIRE(desktop.send(signal));
    };
    const bool hears = QTest::qWaitFor( // who listens is known to the bus after a while only
        [&] {
            say("color-scheme");
            QTest::qWait(20);
            return heard > 0;
        },
        10'000);
    REQUIRE(hears);
    QTest::qWait(100);
    heard = 0;
    say("accent-color"); // of something else
    say("color-scheme");
    REQUIRE(QTest::qWaitFor([&] { return heard > 0; }, 10'000));
    CHECK(heard == 1);

    QDBusConnection::disconnectFromBus(q("the desktop"));
    QDBusConnection::disconnectFromBus(q("Frenlo"));
    daemon.terminate();
    daemon.waitForFinished();
}

}
