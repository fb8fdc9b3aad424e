#pragma once
// Drives the real window as a person does: finds things by the names that a screen reader says, clicks, types, waits
// for conditions, never for time.
#include "app/sheet/sheet_view.h"
#include "app/steps/sort/findings.h"
#include "app/window/main_window.h"
#include "tests/support/temp_folder.h"

#include <QApplication>
#include <QSettings>
#include <QString>
#include <QtTest/QTest>

#include <functional>
#include <memory>
#include <stdexcept>
#include <vector>

namespace frenlo::test {

class Person
{
public:
    explicit Person(QSize size = {1280, 800});
    ~Person();

    [[nodiscard]] app::MainWindow& window() { return *window_; }
    [[nodiscard]] const app::Findings& findings();
    [[nodiscard]] const TempFolder& folder() const { return folder_; }
    [[nodiscard]] app::Places places() const;

    /// Ends Frenlo as a kill does, without saving or asking, and starts it anew in the same folders.
    void kill_and_restart();

    /// The visible widget with this accessible name, or, for buttons, this text. Fails the test with a picture.
    QWidget* find(const QString& name);
    template <class T>
    T* find(const QString& name)
    {
        if (T* found = qobject_cast<T*>(find(name)))
            return found;
        fail(name + QStringLiteral(" is another kind of widget"));
    }
    [[nodiscard]] bool sees(const QString& name);

    void click(const QString& name);
    void click_photo(int number, Qt::KeyboardModifiers modifiers = {}); ///< on the Sheet, from 1
    void drag_over_photos(int from, int to);
    /// Presses on the Sheet, moves in steps and lets go; positions in its viewport.
    void drag_on_sheet(QPoint from, QPoint to);
    /// On the large picture, in shares of what it shows.
    void click_on_picture(QPointF share);
    void drag_on_picture(QPointF from, QPointF to);
    void drag_on_picture(const std::vector<QPointF>& way); ///< from point to point
    [[nodiscard]] app::SheetView& sheet();
    void key(Qt::Key key, Qt::KeyboardModifiers modifiers = {}); ///< to whatever has the focus
    void type_into(const QString& name, const QString& text);    ///< replaces what is there, then Enter
    void choose(const QString& combo, const QString& item);
    QAction* menu(const QString& text);

    /// Lets the application run until this is so. what: for the message when it never becomes so.
    void wait_until(const std::function<bool()>& condition, const QString& what, int most_ms = 30'000);
    /// Until every picture that is wanted is there.
    void wait_for_pictures();
    /// The dialog that asks for a folder.
    void answer_folder(const std::filesystem::path& folder);
    void bring_in(const std::filesystem::path& folder);
    /// The shot that is looked at, by Export, until it is checked.
    void export_film(const std::filesystem::path& file);
    /// What Export is set to, from its button to the tick.
    void export_now(int most_ms = 600'000);
    void save_picture(const QString& file);
    /// A picture of the window as it is now, for whoever looks: into the folder FRENLO_LOOK, where it is set.
    void look(const char* name);
    void look(const char* name, QWidget& at); ///< of another window
    [[noreturn]] void fail(const QString& why);

private:
    void start();
    [[nodiscard]] QPoint on_picture(QPointF share);

    TempFolder folder_;
    QSize size_;
    std::unique_ptr<QSettings> settings_;
    std::unique_ptr<app::MainWindow> window_;
};

}
