#pragma once
#include "app/work/viewing.h"

#include <QKeySequence>
#include <QList>
#include <QObject>

#include <filesystem>
#include <functional>
#include <memory>
#include <span>
#include <vector>

class QWidget;

namespace frenlo {
class PreviewStore;
}

namespace frenlo::app {

class PhotoLoader;
class PictureStep;
class PictureView;
class Player;
class RowActions;
class RowMeter;
class TileActions;
class Waveforms;

/// What the pages of steps are given. All of it outlives them.
struct Services
{
    Background& background;
    Session& session;
    Viewing& viewing;
    PreviewStore& store;
    PhotoLoader& loader;
    Player& player;
    PictureView& picture;
    Waveforms& waveforms;
    const std::filesystem::path& filings;  ///< where journals of moved files lie
    const std::filesystem::path& kept;     ///< what the user keeps for all projects; may not be there yet
    std::function<void()> bring_folder_in; ///< asks for one
};

/// What the Route says of a step.
struct RouteState
{
    QString figure;      ///< the one that matters
    bool done = false;   ///< something is there
    bool look = false;   ///< it is worth a look
    bool hidden = false; ///< nobody used it: its station is left out
};

/// What a key does. Where a key means something to several steps, the one in view comes first.
struct StepKey
{
    enum class Where
    {
        step, ///< while the step is in view
        rows, ///< where the Sheet is rows of time
        everywhere,
    };
    QList<QKeySequence> keys; ///< all ways to type it
    std::function<void()> press;
    Where where = Where::step;
    bool repeats = false;
    /// In place of press, for keys that are the Sheet's otherwise, or held: only while the Sheet has the keys. again:
    /// the key is held down. Returns whether it took the key.
    std::function<bool(bool again)> on_sheet{};
    std::function<void()> release{};     ///< of a key that is held
    QString entry{};                     ///< of the menu of what keys do; empty for keys that move things
    QString group{};                     ///< a menu of its own within that one
    std::function<void(bool on)> hold{}; ///< of a key that is held: what the menu's entry switches
};

/// The same key with its entry in the menu.
StepKey named(const QString& entry, StepKey key, const QString& group = {});

/// A key that does something for as long as it is held.
StepKey held_key(Qt::Key key, const std::function<void(bool on)>& set, StepKey::Where where);

/// A line of the page of keys.
struct KeyHelp
{
    QString keys;
    QString what;
};

/// A step as the window sees it: everything of it that is seen, heard or done. Members that a step has no use for keep
/// their default.
class StepPage : public QObject
{
    Q_OBJECT
public:
    using QObject::QObject;

    /// The controls under the picture; made once, owned by who shows it.
    [[nodiscard]] virtual QWidget* bench() = 0;
    [[nodiscard]] virtual RouteState route_state() const = 0;

    /// What it is called among the steps of its station, where there are several.
    [[nodiscard]] virtual QString page_name() const { return {}; }
    /// In place of the large picture, while it is not null; picture_changed() says that it is another.
    [[nodiscard]] virtual QWidget* picture() { return nullptr; }
    /// Between picture and bench, in place of the player's controls.
    [[nodiscard]] virtual QWidget* tools() { return nullptr; }
    /// Beside the Sheet's tabs.
    [[nodiscard]] virtual QWidget* sheet_tools() { return nullptr; }
    [[nodiscard]] virtual RowMeter* row_meter() { return nullptr; }
    [[nodiscard]] virtual const PictureStep* picture_step() const { return nullptr; }
    /// What hands do on the Sheet, of the steps that the Sheet's two kinds belong to.
    [[nodiscard]] virtual TileActions* tile_actions() { return nullptr; }
    [[nodiscard]] virtual RowActions* row_actions() { return nullptr; }

    [[nodiscard]] virtual std::vector<StepKey> keys() { return {}; }
    [[nodiscard]] virtual std::vector<KeyHelp> key_help() const { return {}; }
    /// Files that were dropped on the window, before they are looked at as photos. Whether they are this step's.
    virtual bool take_dropped(const std::vector<std::filesystem::path>&) { return false; }
    /// Of a shot that has just come in: a question that leads here, "It moves by up to 21 px: hold it still?", after a
    /// look at some of its photos in the background; answered later, or never.
    virtual void suggest(const ShotPtr&, const std::function<void(const QString& question)>&) {}
    /// Esc: ends what is under way. Whether there was something.
    virtual bool end_what_goes_on() { return false; }
    /// Another step is looked at.
    virtual void left() {}

Q_SIGNALS:
    void route_changed();
    void picture_changed();
    void told(const QString& message); ///< to be said where everybody sees it
    void progress(double fraction, const QString& what,
                  const std::function<void()>& stop); ///< of what concerns the whole project
    void progress_ended();
    void show_photo(ShotIndex shot, PhotoIndex photo);
    void keys_to_sheet(); ///< what was typed is taken
};

/// Other words for a control, by which “Where is …?” finds it.
struct WhereWords
{
    const char* control; ///< as its accessible name says, or its text
    const char* words;
};

/// A step in the list.
struct StepModule
{
    StepInfo info;
    const char* name; ///< of its station on the Route, to be translated; steps of one name share a station
    std::unique_ptr<StepPage> (*make)(const Services&);
    std::span<const WhereWords> words{};
};

/// All of them, in the order of the job: those of steps.cmake.
std::span<const StepModule* const> step_modules();
QString name_of(const StepModule& module);

}
