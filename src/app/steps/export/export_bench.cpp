#include "app/steps/export/export_bench.h"

#include "app/theme/theme.h"
#include "app/widgets/layouts.h"
#include "app/work/lengths.h"
#include "core/base/text.h"
#include "core/time/timecode.h"

#include <QComboBox>
#include <QDesktopServices>
#include <QFileInfo>
#include <QHBoxLayout>
#include <QLabel>
#include <QLineEdit>
#include <QLocale>
#include <QProgressBar>
#include <QPushButton>
#include <QSignalBlocker>
#include <QSpinBox>
#include <QUrl>
#include <QVBoxLayout>

#include <algorithm>
#include <cmath>

namespace frenlo::app {

namespace {

QString time_left(int seconds)
{
    if (seconds < 0)
        return {};
    if (seconds < 60)
        return QObject::tr(" · %1 s left").arg(seconds);
    return QObject::tr(" · %1 min %2 s left").arg(seconds / 60).arg(seconds % 60);
}

QString time_text(double seconds)
{
    if (seconds < 60)
        return QObject::tr(" · takes about %1 s").arg(std::max(1, int(std::lround(seconds))));
    return QObject::tr(" · takes about %1 min").arg(int(std::lround(seconds / 60)));
}

}

ExportBench::ExportBench(Background& background, Session& session, Viewing& viewing, Exporter& exporter,
                         PresetShelf& shelf, QWidget* parent)
    : QWidget(parent), background_(background), session_(session), viewing_(viewing), exporter_(exporter), shelf_(shelf)
{
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(14, 12, 14, 12);
    column->setSpacing(10);
    column->addWidget(settings_part());
    column->addWidget(run_part());
    column->addStretch();

    plan_timer_.setSingleShot(true);
    plan_timer_.setInterval(80);
    connect(&plan_timer_, &QTimer::timeout, this, &ExportBench::plan);
    estimate_timer_.setSingleShot(true);
    estimate_timer_.setInterval(600); // it costs seconds of all cores: not for what changes while somebody types
    connect(&estimate_timer_, &QTimer::timeout, this, [this] {
        if (planned_ && viewing_.is_step("export"))
            exporter_.estimate(planned_->project, planned_->order);
    });
    connect(&exporter, &Exporter::estimated, this, [this] {
        if (!planned_)
            return;
        if (exporter_.estimate())
            show_plan(with_estimate(planned_->plan, planned_->order, *exporter_.estimate()));
        else
            show_plan(planned_->plan);
    });
    connect(&viewing, &Viewing::shot_changed, this, &ExportBench::propose_file);
    connect(&viewing, &Viewing::step_changed, this, &ExportBench::plan_soon);
    connect(&session, &Session::started, this, [this] {
        file_is_own_ = false;
        exporter_.forget();
        state_->clear();
        refresh();
    });
    connect(&exporter, &Exporter::progress, this, [this](double fraction, const QString& what, int left) {
        progress_->setValue(int(fraction * 1000));
        state_->setText(what + time_left(left));
    });
    connect(&exporter, &Exporter::finished, this, &ExportBench::show_finished);
    connect(&exporter, &Exporter::photos_checked, this, &ExportBench::show_notes);
    connect(&exporter, &Exporter::stopped, this, [this] {
        state_->setText(tr("Stopped. Nothing half written is left."));
        refresh();
    });
    connect(&exporter, &Exporter::failed, this, [this](const QString& message, bool a_photo) {
        state_->clear();
        plan_notes_ = {message};
        show_notes();
        hold_before_->setVisible(a_photo);
    });
    hold_before_->hide();
    take_format();
    refresh();
}

QWidget* ExportBench::run_part()
{
    auto* part = new QWidget;
    auto* column = new QVBoxLayout(part);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(gap);
    plan_ = new QLabel;
    plan_->setAccessibleName(tr("What will be written"));
    plan_->setWordWrap(true);
    column->addWidget(plan_);
    notes_ = notice();
    notes_->setAccessibleName(tr("Notes on the export"));
    column->addWidget(notes_);
    checking_ = secondary({});
    checking_->setAccessibleName(tr("Photos checked"));
    checking_->hide();
    column->addWidget(checking_);

    question_ = new QWidget;
    auto* answers = new QHBoxLayout(question_);
    answers->setContentsMargins(0, 0, 0, 0);
    answers->setSpacing(gap);
    question_text_ = new QLabel;
    question_text_->setAccessibleName(tr("What is there already"));
    question_text_->setWordWrap(true);
    write_other_ = tool({}, tr("Leaves what is there, and writes under a name that is free"));
    auto* replace = tool(tr("Replace it"), tr("What is there under this name goes"));
    auto* leave = tool(tr("Leave it"), tr("Nothing is written"));
    answers->addWidget(question_text_, 1);
    for (QWidget* w : std::initializer_list<QWidget*>{write_other_, replace, leave})
        answers->addWidget(w);
    question_->hide();
    column->addWidget(question_);
    connect(write_other_, &QPushButton::clicked, this, [this] {
        file_->setText(to_qt(other_name_));
        file_is_own_ = true;
        start(asked_for_);
    });
    connect(replace, &QPushButton::clicked, this, [this] { start(asked_for_, There::replace); });
    connect(leave, &QPushButton::clicked, question_, &QWidget::hide);

    auto* row = new QHBoxLayout;
    row->setSpacing(gap);
    go_ = tool({});
    make_primary(go_);
    go_->setMinimumWidth(96);
    hold_before_ = tool(tr("Export, holding the photo before"),
                        tr("Photos that cannot be read are left out, and the one before stays"));
    list_ = tool(tr("Put on the export list"),
                 tr("To be written later, one after another, while work goes on; of the project "
                    "as it is now"));
    stop_ = tool(tr("Stop"), tr("Ends the export; what is half written is removed"));
    progress_ = new QProgressBar;
    progress_->setRange(0, 1000);
    progress_->setTextVisible(false);
    progress_->setAccessibleName(tr("Progress of the export"));
    play_ = tool(tr("Play the result"));
    show_folder_ = tool(tr("Show the folder"));
    state_ = new QLabel;
    state_->setAccessibleName(tr("State of the export"));
    for (QWidget* w : std::initializer_list<QWidget*>{go_, list_, hold_before_, stop_})
        row->addWidget(w);
    row->addWidget(progress_, 1);
    row->addStretch();
    column->addLayout(row);
    // The result has a line of its own, however long its name is.
    auto* result = new QHBoxLayout;
    result->setSpacing(gap);
    state_->setWordWrap(true);
    result->addWidget(play_);
    result->addWidget(show_folder_);
    result->addWidget(state_, 1);
    trade_ = new TradeView;
    result->addWidget(trade_);
    column->addLayout(result);

    connect(go_, &QPushButton::clicked, this, [this] { start(OnBadPhoto::stop); });
    connect(list_, &QPushButton::clicked, this, &ExportBench::put_on_list);
    connect(hold_before_, &QPushButton::clicked, this, [this] { start(OnBadPhoto::hold_before); });
    connect(stop_, &QPushButton::clicked, &exporter_, &Exporter::stop);
    const auto open = [this](bool folder) {
        if (!exporter_.last())
            return;
        const auto& file = exporter_.last()->plan.file;
        const bool stills = exporter_.last()->files > 1 || file.native().find('%') != std::string::npos;
        QDesktopServices::openUrl(QUrl::fromLocalFile(to_qt(folder || stills ? file.parent_path() : file)));
    };
    connect(play_, &QPushButton::clicked, this, [open] { open(false); });
    connect(show_folder_, &QPushButton::clicked, this, [open] { open(true); });
    return part;
}

void ExportBench::plan_soon()
{
    question_->hide();
    if (!viewing_.is_step("export"))
        return;
    fill_shapes();
    plan_timer_.start();
}

void ExportBench::plan()
{
    const auto o = order();
    const std::uint64_t number = ++plan_number_;
    planned_.reset();
    if (!viewing_.shot() || !o) {
        show_plan(problem(viewing_.shot() ? "this is no size; 1920 × 1080 and 1920 × are, of a file 2 MB"
                                          : "there is no shot yet"));
        return;
    }
    const bool exact = o->preset.size && o->preset.size->width > 0 && o->preset.size->height > 0;
    fit_->setVisible(exact);
    exporter_.check(session_.project(), *o);
    background_.run(
        this,
        [project = session_.project(), o = *o] { return Background::guarded([&] { return plan_export(project, o); }); },
        [this, number, project = session_.project(), o = *o](const Result<ExportPlan>& made) {
            if (number != plan_number_)
                return;
            exporter_.forget_estimate();
            show_plan(made);
            if (!made)
                return;
            planned_ = Planned{project, o, *made};
            estimate_timer_.start();
        },
        Rank::measure);
}

/// Frames at their rate, or pictures that each last as long as their photo.
QString ExportBench::extent_of(const ExportPlan& plan)
{
    if (length_of(plan.frames, plan.rate) == plan.length)
        return tr("%1 at %2 fps").arg(length_in_full(plan.frames, plan.rate), QString::fromStdString(plan.rate.text()));
    return tr("%n picture(s)", nullptr, int(plan.frames)) + QStringLiteral(" · ") +
           QString::fromStdString(shown_seconds(plan.length));
}

void ExportBench::show_plan(const Result<ExportPlan>& plan)
{
    can_export_ = plan.has_value();
    hold_before_->hide();
    if (!plan) {
        plan_->clear();
        plan_notes_ = {QString::fromStdString(plan.error().text())};
        show_notes();
        return;
    }
    plan_->setText(extent_of(*plan) +
                   tr(" · %1 × %2 · about %3 of %4 free")
                       .arg(plan->size.width)
                       .arg(plan->size.height)
                       .arg(QString::fromStdString(shown_bytes(plan->estimated_bytes)))
                       .arg(QString::fromStdString(shown_bytes(plan->free_bytes))) +
                   (exporter_.estimate() ? time_text(exporter_.estimate()->seconds) : QString()) +
                   [&] { // one of them where there are several: all stand in its tip
                       if (plan->notes.empty())
                           return QString();
                       QString notes = QStringLiteral(" · ") + QString::fromStdString(plan->notes.front());
                       if (plan->notes.size() > 1)
                           notes += tr(" · %n more note(s)", nullptr, int(plan->notes.size()) - 1);
                       return notes;
                   }());
    QStringList all;
    for (const std::string& note : plan->notes)
        all << QString::fromStdString(note);
    plan_->setToolTip(all.join(QLatin1Char('\n')));
    plan_notes_.clear();
    if (!exporter_.estimate_problem().isEmpty())
        plan_notes_ << tr("How long it will take is not known: %1").arg(exporter_.estimate_problem());
    for (const auto& p : plan->problems)
        plan_notes_ << QString::fromStdString(p.text());
    show_notes();
}

/// What the plan says, and what was found out about the photos since.
void ExportBench::show_notes()
{
    QStringList notes = plan_notes_;
    const PhotoChecks& checks = exporter_.checks();
    constexpr std::size_t most_named = 3;
    for (std::size_t i = 0; i < std::min(most_named, checks.problems.size()); ++i)
        if (const QString text = QString::fromStdString(checks.problems[i].text()); !notes.contains(text))
            notes << text;
    if (checks.problems.size() > most_named)
        notes << tr("And %n more photo(s) cannot be read.", nullptr, int(checks.problems.size() - most_named));
    for (QString& note : notes) // each a sentence, also where no file's name begins it
        note.replace(0, 1, note.left(1).toUpper());
    say(notes_, notes.join(QLatin1Char('\n')));
    const bool checking = checks.done < checks.photos.size();
    checking_->setText(checking ? tr("Photos checked: %1 of %2").arg(checks.done).arg(checks.photos.size())
                                : QString());
    checking_->setVisible(checking && !exporter_.running());
    refresh();
    if (!exporter_.running() && can_export_)
        hold_before_->setVisible(!checks.problems.empty());
}

void ExportBench::put_on_list()
{
    const auto o = order();
    if (!o)
        return;
    ListedExport e;
    e.reel = o->reel;
    if (const Shot* shot = viewing_.shot(); shot && !o->reel)
        e.shot = shot->name;
    e.preset = o->preset.name;
    if (shelf_.is_own(QString::fromStdString(e.preset)))
        e.own = base_preset();
    e.file = o->file;
    const Preset& usual = base_preset();
    if (o->preset.size)
        e.size = o->preset.size;
    if (o->preset.fit != usual.fit)
        e.fit = o->preset.fit;
    if (o->preset.quality != usual.quality)
        e.quality = o->preset.quality;
    if (o->preset.colours != usual.colours)
        e.colours = o->preset.colours;
    if (o->preset.dither != usual.dither)
        e.dither = o->preset.dither;
    e.most_bytes = o->preset.most_bytes;
    e.times = o->times;
    e.shape = o->shape;
    Q_EMIT to_the_list(e);
}

void ExportBench::ask_about(const ExportPlan& plan, const std::filesystem::path& free)
{
    const auto& there = plan.existing.front();
    const QFileInfo info(to_qt(there));
    const QString when = QLocale().toString(info.lastModified(), QStringLiteral("d MMM HH:mm"));
    other_name_ = free;
    question_text_->setText(plan.existing.size() == 1 ? tr("%1 is there already, of %2.").arg(info.fileName(), when)
                                                      : tr("%1, of %2, and %n more are there already.", nullptr,
                                                           int(plan.existing.size()) - 1)
                                                            .arg(info.fileName(), when));
    write_other_->setText(tr("Write %1").arg(to_qt(free.filename())));
    question_->show();
    write_other_->setFocus();
}

void ExportBench::start(OnBadPhoto on_bad_photo, There there)
{
    auto o = order();
    if (!o || exporter_.running())
        return;
    limit_asked_ = o->preset.most_bytes.value_or(0);
    trade_->hide();
    o->on_bad_photo = on_bad_photo;
    o->overwrite = there == There::replace;
    asked_for_ = on_bad_photo;
    question_->hide();
    state_->setText(tr("starting"));
    const std::uint64_t number = ++start_number_;
    struct Looked
    {
        ExportPlan plan;
        std::filesystem::path free;
    };
    background_.run(
        this,
        [project = session_.project(), o = *o] {
            return Background::guarded([&] {
                Looked looked{plan_export(project, o), {}};
                if (!looked.plan.existing.empty())
                    looked.free = free_name(o.file, format_of(o.preset), looked.plan.frames);
                return looked;
            });
        },
        [this, number, project = session_.project(), o = *o](const Result<Looked>& looked) {
            if (number != start_number_ || exporter_.running()) // something else was asked for since
                return;
            if (looked && !looked->plan.existing.empty() && !o.overwrite) {
                state_->clear();
                ask_about(looked->plan, looked->free);
                return;
            }
            plan_notes_.clear();
            progress_->setValue(0);
            exporter_.start(project, o);
            show_notes();
        },
        Rank::measure);
}

void ExportBench::show_finished()
{
    const ExportReport& r = *exporter_.last();
    state_->setText(tr("✓ %1 · %2 · %3 · checked")
                        .arg(to_qt(r.plan.file.filename()))
                        .arg(length_of(r.plan.frames, r.plan.rate) == r.plan.length
                                 ? tr("%n frame(s)", nullptr, int(r.plan.frames))
                                 : tr("%n picture(s)", nullptr, int(r.plan.frames)))
                        .arg(QString::fromStdString(shown_bytes(r.bytes))));
    trade_->show_trade(r.tried, limit_asked_);
    if (r.tried.size() > 1) { // what keeping the limit took
        const TriedSettings& t = r.tried.back();
        const Format& format = format_of(base_preset());
        const auto files =
            std::count_if(r.tried.begin(), r.tried.end(), [](const TriedSettings& one) { return !one.sampled; });
        const QString how = format.quality   ? tr("quality %1").arg(t.quality)
                            : format.colours ? tr("%1 colours").arg(t.colours)
                                             : QString();
        state_->setText(state_->text() +
                        tr(" · below the limit with %1 and %2 × %3, %n file(s) tried", nullptr, int(files))
                            .arg(how)
                            .arg(t.size.width)
                            .arg(t.size.height));
    }
    ++plan_number_; // what is still being worked out is an estimate of what is there by now
    planned_.reset();
    plan_->setText(tr("%1 · %2 × %3 · written, %4")
                       .arg(extent_of(r.plan))
                       .arg(r.plan.size.width)
                       .arg(r.plan.size.height)
                       .arg(QString::fromStdString(shown_bytes(r.bytes))));
    plan_notes_.clear();
    for (const auto& p : r.problems)
        plan_notes_ << QString::fromStdString(p.text());
    show_notes();
}

void ExportBench::refresh()
{
    const bool running = exporter_.running();
    const bool done = exporter_.last().has_value();
    go_->setEnabled(can_export_ && !running);
    go_->setVisible(!running);
    list_->setEnabled(can_export_);
    if (running)
        hold_before_->hide();
    stop_->setVisible(running);
    progress_->setVisible(running);
    play_->setVisible(done && !running);
    show_folder_->setVisible(done && !running);
}

}
