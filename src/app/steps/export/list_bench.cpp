#include "app/steps/export/list_bench.h"

#include "app/theme/theme.h"
#include "app/widgets/layouts.h"
#include "core/base/text.h"
#include "core/export/format.h"

#include <QComboBox>
#include <QDesktopServices>
#include <QHBoxLayout>
#include <QHeaderView>
#include <QLabel>
#include <QProgressBar>
#include <QPushButton>
#include <QSignalBlocker>
#include <QStandardPaths>
#include <QTreeWidget>
#include <QUrl>
#include <QVBoxLayout>

#include <algorithm>

namespace frenlo::app {

namespace {

/// As far as it is known before it is written: which number it gets, is seen then.
QString file_text(const ListedExport& listed)
{
    QString text = to_qt(listed.file.filename());
    text.replace(QStringLiteral("{shot}"), listed.reel ? ListBench::tr("Reel") : QString::fromStdString(listed.shot));
    text.replace(QStringLiteral("{preset}"), QString::fromStdString(listed.preset));
    text.replace(QStringLiteral("{version}"), QStringLiteral("…"));
    text.replace(QStringLiteral("{date}"), QStringLiteral("…"));
    return text;
}

QString state_text(const ListedExport& e)
{
    switch (e.state) {
    case ListState::waiting:
        return e.said.empty() ? ListBench::tr("waits") : look_at_this(QString::fromStdString(e.said));
    case ListState::running:
        return ListBench::tr("is written");
    case ListState::done:
        return ListBench::tr("✓ %1, checked").arg(QString::fromStdString(shown_bytes(e.bytes)));
    case ListState::failed:
        return ListBench::tr("failed: %1").arg(QString::fromStdString(e.said));
    case ListState::left_out:
        return ListBench::tr("left out");
    }
    return {};
}

}

ListBench::ListBench(Session& session, ListRunner& runner, PresetShelf& shelf, QWidget* parent)
    : QWidget(parent), session_(session), runner_(runner), shelf_(shelf), list_(new QTreeWidget),
      presets_(new QComboBox),
      add_all_(tool(tr("Add all shots"),
                    tr("Each as a file of its own; those that were taken out of the Reel are not added"))),
      look_(tool(tr("Look ahead"), tr("Reads every photo, and sees whether all fits and has room, before the night: "
                                      "nothing is written"))),
      go_(tool(tr("Start the export list"))),
      pause_(tool(tr("Pause the list"), tr("What is being written is finished, and nothing after it begins"))),
      leave_out_(tool(tr("Leave it out"), tr("Ends what is being written, and goes on with the next"))),
      again_(tool(tr("Export again"), tr("It waits again"))), up_(tool(tr("Move up"), tr("Alt and up"))),
      down_(tool(tr("Move down"), tr("Alt and down"))),
      remove_(tool(tr("Remove it"), tr("Off the list; a file that was written "
                                       "stays (Delete)"))),
      clear_(tool(tr("Remove what is done"))), play_(tool(tr("Play it"))), folder_(tool(tr("Show the folder"))),
      progress_(new QProgressBar), state_(new QLabel)
{
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(14, 8, 14, 8);
    column->setSpacing(6);
    list_->setAccessibleName(tr("Exports on the list"));
    list_->setColumnCount(3);
    list_->setHeaderLabels({tr("File"), tr("of"), tr("State")});
    list_->setRootIsDecorated(false);
    list_->setUniformRowHeights(true);
    list_->setFrameShape(QFrame::NoFrame);
    list_->setMinimumHeight(80);
    list_->header()->setStretchLastSection(true);
    list_->header()->setSectionResizeMode(0, QHeaderView::ResizeToContents);
    list_->header()->setSectionResizeMode(1, QHeaderView::ResizeToContents);
    column->addWidget(list_, 1);
    presets_->setAccessibleName(tr("Format of all shots"));
    fill_presets();
    connect(&shelf_, &PresetShelf::changed, this, &ListBench::fill_presets);
    presets_->setMaximumWidth(230);
    column->addLayout(line_of({add_all_, secondary(tr("as")), presets_, clear_}));
    column->addLayout(line_of({up_, down_, again_, remove_, play_, folder_}));
    make_primary(go_);
    progress_->setRange(0, 1000);
    progress_->setTextVisible(false);
    progress_->setAccessibleName(tr("Progress of what is written"));
    progress_->setMaximumWidth(140);
    state_->setAccessibleName(tr("State of the list"));
    column->addLayout(line_of({go_, look_, pause_, leave_out_, progress_, state_}));

    connect(&runner, &ListRunner::changed, this, &ListBench::fill);
    connect(&session, &Session::changed, this, &ListBench::refresh);
    connect(&runner, &ListRunner::progress, this, [this](double fraction, const QString& what, int left) {
        progress_->setValue(int(fraction * 1000));
        state_->setText(what + (left < 0 ? QString() : tr(" · %1 s left").arg(left)));
    });
    connect(&runner, &ListRunner::ended, this, [this](int done, int failed) {
        state_->setText(failed == 0 ? tr("All written: %n file(s)", nullptr, done)
                                    : tr("%n file(s) written", nullptr, done) + tr(", %n failed", nullptr, failed));
    });
    connect(list_, &QTreeWidget::currentItemChanged, this, &ListBench::refresh);
    connect(go_, &QPushButton::clicked, &runner, &ListRunner::start);
    connect(look_, &QPushButton::clicked, this, [this] {
        looked_.clear();
        runner_.looking() ? runner_.stop_looking() : runner_.look_ahead();
    });
    connect(&runner, &ListRunner::looked, this, [this](int exports, int photos, int bad) {
        looked_ = bad == 0 ? tr("%n photo(s) read whole: nothing stands in the way.", nullptr, photos)
                           : tr("%1 of %2 to look at.").arg(bad).arg(exports);
        refresh();
    });
    connect(pause_, &QPushButton::clicked, &runner, &ListRunner::pause);
    connect(leave_out_, &QPushButton::clicked, &runner, &ListRunner::leave_out_current);
    connect(again_, &QPushButton::clicked, this, [this] {
        if (const auto row = chosen())
            runner_.again(*row);
    });
    connect(up_, &QPushButton::clicked, this, [this] { move(-1); });
    connect(down_, &QPushButton::clicked, this, [this] { move(1); });
    connect(remove_, &QPushButton::clicked, this, &ListBench::remove);
    connect(clear_, &QPushButton::clicked, &runner, &ListRunner::clear_done);
    connect(add_all_, &QPushButton::clicked, this, &ListBench::add_all);
    connect(play_, &QPushButton::clicked, this, [this] { open(false); });
    connect(folder_, &QPushButton::clicked, this, [this] { open(true); });
    fill();
}

std::optional<std::size_t> ListBench::chosen() const
{
    const int row = list_->indexOfTopLevelItem(list_->currentItem());
    return row < 0 ? std::nullopt : std::optional(std::size_t(row));
}

void ListBench::fill_presets()
{
    const QString chosen = presets_->currentData().toString();
    presets_->clear();
    for (const Preset& p : shelf_.own())
        presets_->addItem(QString::fromStdString(p.title), QString::fromStdString(p.name));
    for (const Preset& p : presets())
        presets_->addItem(QString::fromStdString(p.title), QString::fromStdString(p.name));
    const int before = presets_->findData(chosen);
    presets_->setCurrentIndex(before >= 0 ? before : int(shelf_.own().size()));
}

void ListBench::fill()
{
    const auto before = chosen();
    {
        const QSignalBlocker quiet(list_);
        list_->clear();
        for (const auto& e : runner_.entries()) {
            auto* item = new QTreeWidgetItem(list_);
            item->setText(0, file_text(e.listed));
            item->setToolTip(0, to_qt(e.listed.file));
            item->setText(1, (e.listed.reel ? tr("Reel") : QString::fromStdString(e.listed.shot)) +
                                 QStringLiteral(" · ") + QString::fromStdString(e.listed.preset));
            item->setText(2, state_text(e.listed));
            item->setToolTip(2, QString::fromStdString(e.listed.said));
        }
        if (list_->topLevelItemCount() > 0)
            list_->setCurrentItem(
                list_->topLevelItem(int(std::min(before.value_or(0), std::size_t(list_->topLevelItemCount()) - 1))));
    }
    refresh();
}

void ListBench::refresh()
{
    const auto row = chosen();
    const auto& entries = runner_.entries();
    const ListedExport* e = row && *row < entries.size() ? &entries[*row].listed : nullptr;
    const bool waits =
        std::any_of(entries.begin(), entries.end(), [](const auto& x) { return x.listed.state == ListState::waiting; });
    go_->setVisible(!runner_.going_on());
    go_->setEnabled(waits);
    pause_->setVisible(runner_.going_on());
    leave_out_->setVisible(runner_.running());
    look_->setVisible(!runner_.going_on());
    look_->setEnabled(waits);
    look_->setText(runner_.looking() ? tr("Stop looking") : tr("Look ahead"));
    progress_->setVisible(runner_.running() || runner_.looking());
    up_->setEnabled(row && *row > 0);
    down_->setEnabled(row && *row + 1 < entries.size());
    remove_->setEnabled(e != nullptr);
    again_->setEnabled(e && e->state != ListState::waiting && e->state != ListState::running);
    play_->setEnabled(e && e->state == ListState::done);
    folder_->setEnabled(e != nullptr);
    clear_->setEnabled(
        std::any_of(entries.begin(), entries.end(), [](const auto& x) { return x.listed.state == ListState::done; }));
    add_all_->setEnabled(!session_.is_empty());
    if (entries.empty())
        state_->setText(tr("Nothing on the list. Put exports here in Export, or add all shots."));
    else if (state_->text().isEmpty() || (waits && !runner_.going_on()))
        state_->setText(!waits ? QString() : looked_.isEmpty() ? tr("It waits for you to start it.") : looked_);
}

void ListBench::add_all()
{
    const QString preset = presets_->currentData().toString();
    const std::filesystem::path folder = session_.file().empty()
                                             ? from_qt(QStandardPaths::writableLocation(QStandardPaths::MoviesLocation))
                                             : session_.file().parent_path();
    const bool stills = format_of(shelf_.find(preset)).stills();
    std::vector<ListedExport> all;
    const auto& left_out = session_.project().reel.left_out;
    for (const ShotPtr& shot : session_.project().shots) {
        if (std::find(left_out.begin(), left_out.end(), shot->id) != left_out.end())
            continue; // what layers show, among others
        ListedExport e;
        e.shot = shot->name;
        e.preset = preset.toStdString();
        if (shelf_.is_own(preset))
            e.own = shelf_.find(preset);
        e.file = folder / (stills ? "{shot} {version}_%04d" : "{shot} {preset} {version}");
        all.push_back(std::move(e));
    }
    runner_.add(std::move(all), session_.project());
}

void ListBench::move(int by)
{
    if (const auto row = chosen()) {
        runner_.move(*row, by);
        const auto to = std::ptrdiff_t(*row) + by;
        if (to >= 0 && to < list_->topLevelItemCount())
            list_->setCurrentItem(list_->topLevelItem(int(to)));
    }
}

void ListBench::remove()
{
    if (const auto row = chosen())
        runner_.remove(*row);
}

void ListBench::open(bool folder)
{
    const auto row = chosen();
    if (!row)
        return;
    const auto& file = runner_.entries()[*row].listed.file;
    const bool stills = file.native().find('%') != std::string::npos;
    QDesktopServices::openUrl(QUrl::fromLocalFile(to_qt(folder || stills ? file.parent_path() : file)));
}

}
