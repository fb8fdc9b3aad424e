#include "app/steps/reel/reel_bench.h"

#include "app/theme/theme.h"
#include "app/widgets/entries.h"
#include "app/widgets/layouts.h"
#include "app/widgets/swatch.h"
#include "core/steps/reel/reel_edits.h"

#include <QColorDialog>
#include <QComboBox>
#include <QHBoxLayout>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QSignalBlocker>
#include <QVBoxLayout>

#include <algorithm>
#include <array>

namespace frenlo::app {

namespace {

constexpr std::array<std::pair<const char*, std::array<int, 2>>, 6> offered_frames{{{"16:9", {1920, 1080}},
                                                                                    {"4:3", {1440, 1080}},
                                                                                    {"1:1", {1080, 1080}},
                                                                                    {"4:5", {1080, 1350}},
                                                                                    {"9:16", {1080, 1920}},
                                                                                    {"2.39:1", {1920, 804}}}};

}

ReelBench::ReelBench(Session& session, Viewing& viewing, QWidget* parent)
    : QWidget(parent), session_(session), viewing_(viewing), list_(new ReelList(viewing)), shots_(new QComboBox),
      take_out_(tool(tr("Take it out"), tr("Takes the shot out of the Reel (Delete); it stays in the project"))),
      kind_(new QComboBox), join_length_(field(tr("Length of the join"), tr("12 f, 0.5 s"), 60)), place_(new QComboBox),
      colour_(tool(tr("Colour…"))), direction_(new QComboBox),
      speed_(field(tr("Speed"), tr("How many times as fast: 2, 0.5, 3/2"), 56)),
      lasts_(field(tr("Length in the Reel"),
                   tr("96 f, 4 s: ends early, or holds the last photo. Empty: as long as the shot is"), 72)),
      range_(secondary({})),
      from_here_(tool(tr("Begin here"), tr("In the Reel the shot begins with the photo under the player"))),
      to_here_(tool(tr("End here"), tr("In the Reel the shot ends with the photo under the player"))),
      whole_(tool(tr("Keep all of it"), tr("In the Reel the shot is all that it keeps by itself, at its own speed"))),
      frame_(new QComboBox), fit_(new QComboBox),
      chapter_(field(tr("Chapter"),
                     tr("Begins at the frame under the player; it is written into "
                        "films. Empty takes it away"),
                     150)),
      notes_(secondary({}))
{
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(14, 8, 14, 8);
    column->setSpacing(6);
    auto* parts = new QHBoxLayout;
    parts->setSpacing(wide_gap);
    parts->addWidget(films_part(), 1);
    parts->addWidget(film_part());
    column->addLayout(parts, 1);
    notes_->setWordWrap(true);
    column->addWidget(notes_);
    connect(&viewing, &Viewing::shot_changed, this, &ReelBench::refresh);
    connect(&viewing, &Viewing::counting_changed, this, &ReelBench::refresh);
    refresh();
}

QWidget* ReelBench::films_part()
{
    auto* part = new QWidget;
    auto* column = new QVBoxLayout(part);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(6);
    list_->setMinimumHeight(80);
    column->addWidget(list_, 1);
    shots_->setAccessibleName(tr("Shot to add"));
    shots_->setMinimumWidth(120);
    auto* add = tool(tr("Add the shot"), tr("Once more if it is there already, behind the one in hand"));
    column->addWidget(one_row({shots_, add, take_out_}));
    connect(add, &QPushButton::clicked, this, &ReelBench::add_film);
    connect(take_out_, &QPushButton::clicked, this, &ReelBench::take_out);
    connect(list_, &ReelList::chosen_changed, this, [this] {
        refresh_film();
        go_to_chosen();
    });
    connect(list_, &ReelList::carried, this, [this](ReelItemId item, std::optional<ReelItemId> before) {
        session_.apply([&](const Project& p) { return move_in_reel(p, item, before); }, tr("Move the shot"));
    });
    return part;
}

QWidget* ReelBench::film_part()
{
    auto* part = new QWidget;
    auto* column = new QVBoxLayout(part);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(6);
    kind_->setAccessibleName(tr("How it goes over into the next"));
    kind_->addItems({tr("cut"), tr("dissolve"), tr("dip to a colour"), tr("wipe")});
    place_->setAccessibleName(tr("Where the join lies"));
    place_->addItems({tr("over the cut"), tr("before the cut"), tr("after the cut")});
    direction_->setAccessibleName(tr("Where the wipe goes to"));
    for (const auto& [name, degrees] : {std::pair(tr("to the right"), 0), std::pair(tr("to the left"), 180),
                                        std::pair(tr("down"), 90), std::pair(tr("up"), -90)})
        direction_->addItem(name, degrees);
    frame_->setAccessibleName(tr("Frame of the Reel"));
    frame_->addItem(tr("as the photos"));
    for (const auto& [name, sides] : offered_frames)
        frame_->addItem(QString::fromLatin1(name));
    fit_->setAccessibleName(tr("Shots of another shape"));
    for (QComboBox* box : {frame_, fit_})
        box->setSizeAdjustPolicy(QComboBox::AdjustToContents);
    fit_->addItems({tr("whole, with bars"), tr("fill the frame")});
    column->addWidget(one_row({secondary(tr("then")), kind_, join_length_}));
    column->addWidget(one_row({place_, colour_, direction_}));
    column->addWidget(one_row({secondary(tr("speed ×")), speed_, secondary(tr("lasts")), lasts_}));
    column->addWidget(one_row({from_here_, to_here_, whole_, range_}));
    column->addWidget(one_row({secondary(tr("frame")), frame_, fit_}));
    column->addWidget(one_row({secondary(tr("chapter here")), chapter_}));
    column->addStretch();

    connect(kind_, &QComboBox::activated, this,
            [this](int which) { change_join(tr("Set the join"), [&](Join& j) { j.kind = JoinKind(which); }); });
    connect(place_, &QComboBox::activated, this,
            [this](int which) { change_join(tr("Move the join"), [&](Join& j) { j.place = JoinPlace(which); }); });
    connect(direction_, &QComboBox::activated, this, [this] {
        change_join(tr("Turn the wipe"), [&](Join& j) { j.degrees = direction_->currentData().toInt(); });
    });
    connect(colour_, &QPushButton::clicked, this, [this] {
        if (const ReelPart* p = this->part()) {
            const QColor chosen = QColorDialog::getColor(qt_colour(p->item.join.colour), this, tr("Colour of the dip"));
            if (chosen.isValid())
                change_join(tr("Set the colour"), [&](Join& j) { j.colour = own_colour(chosen); });
        }
    });
    take_length(
        join_length_, [](ReelItem& i, Seconds length) { i.join.length = length; }, tr("Set the join's length"));
    take_length(
        lasts_, [](ReelItem& i, Seconds length) { i.lasts = length; }, tr("Set the shot's length in the Reel"));
    connect(speed_, &QLineEdit::editingFinished, this, [this] {
        if (!speed_->isModified())
            return;
        const auto speed = parse_fraction(speed_->text().trimmed().toStdString());
        mark_wrong(speed_, !speed || *speed <= Fraction(0));
        if (speed && *speed > Fraction(0))
            change(tr("Set the shot's speed in the Reel"), [&](ReelItem& i) { i.speed = *speed; });
    });
    const auto photo_here = [this]() -> std::optional<PhotoId> {
        const ReelPage* reel = viewing_.reel();
        const PhotoIndex photo = viewing_.shown_photo();
        return reel && photo.value >= 0 ? std::optional(reel->shot->photos[photo.at()].id) : std::nullopt;
    };
    connect(from_here_, &QPushButton::clicked, this,
            [this, photo_here] { change(tr("Begin the shot here"), [&](ReelItem& i) { i.first = photo_here(); }); });
    connect(to_here_, &QPushButton::clicked, this,
            [this, photo_here] { change(tr("End the shot here"), [&](ReelItem& i) { i.last = photo_here(); }); });
    connect(whole_, &QPushButton::clicked, this, [this] {
        change(tr("Keep all of the shot"), [](ReelItem& i) {
            i.first.reset();
            i.last.reset();
            i.lasts.reset();
            i.speed = Fraction(1);
        });
    });
    connect(frame_, &QComboBox::activated, this, [this](int which) {
        session_.apply(
            [&](const Project& p) {
                return change_reel(p, [&](Reel& r) {
                    if (which == 0)
                        r.frame.reset();
                    else if (std::size_t(which) <= offered_frames.size()) {
                        const auto& sides = offered_frames[std::size_t(which - 1)].second;
                        r.frame = cv::Size(sides[0], sides[1]);
                    }
                });
            },
            tr("Set the Reel's frame"));
    });
    connect(fit_, &QComboBox::activated, this, [this](int which) {
        session_.apply([&](const Project& p) { return change_reel(p, [&](Reel& r) { r.fit = ReelFit(which); }); },
                       tr("Fit shots of another shape"));
    });
    connect(chapter_, &QLineEdit::editingFinished, this, &ReelBench::set_chapter);
    connect(&viewing_, &Viewing::playhead_changed, this, [this] {
        if (isVisible())
            follow_playhead();
    });
    return part;
}

const ReelPart* ReelBench::part() const
{
    const ReelPage* reel = viewing_.reel();
    const auto row = list_->chosen_row();
    return reel && row && *row < reel->film->parts().size() ? &reel->film->parts()[*row] : nullptr;
}

void ReelBench::take_length(QLineEdit* field, const std::function<void(ReelItem&, Seconds)>& how, const QString& name)
{
    connect(field, &QLineEdit::editingFinished, this, [this, field, how, name] {
        if (!field->isModified())
            return;
        const QString text = field->text().trimmed();
        if (field == lasts_ && text.isEmpty())
            return change(name, [](ReelItem& i) { i.lasts.reset(); });
        const auto length = parse_length(text, session_.project().delivered_at);
        mark_wrong(field, !length);
        if (length)
            change(name, [&](ReelItem& i) { how(i, *length); });
    });
}

void ReelBench::change(const QString& name, const std::function<void(ReelItem&)>& how)
{
    if (const auto item = list_->chosen())
        session_.apply([&](const Project& p) { return change_reel_item(p, *item, how); }, name);
}

void ReelBench::change_join(const QString& name, const std::function<void(Join&)>& how)
{
    change(name, [&](ReelItem& i) { how(i.join); });
}

void ReelBench::add_film()
{
    const auto& shots = session_.project().shots;
    const auto at = std::size_t(std::max(0, shots_->currentIndex()));
    const ReelPage* reel = viewing_.reel();
    if (at >= shots.size() || !reel)
        return;
    const auto row = list_->chosen_row();
    const auto parts = reel->film->parts();
    std::optional<ReelItemId> before;
    if (row && *row + 1 < parts.size())
        before = parts[*row + 1].item.id;
    session_.apply([&](const Project& p) { return add_to_reel(p, shots[at]->id, before); },
                   tr("Add a shot to the Reel"));
    list_->choose(row ? *row + 1 : 0);
}

void ReelBench::take_out()
{
    if (const auto item = list_->chosen())
        session_.apply([&](const Project& p) { return remove_from_reel(p, *item); }, tr("Take the shot out"));
}

void ReelBench::carry(int by)
{
    const ReelPage* reel = viewing_.reel();
    const auto row = list_->chosen_row();
    if (!reel || !row)
        return;
    const auto parts = reel->film->parts();
    const std::int64_t to = std::int64_t(*row) + (by > 0 ? by + 1 : by);
    if (to < 0 || to > std::int64_t(parts.size()))
        return;
    const ReelItemId item = parts[*row].item.id;
    std::optional<ReelItemId> before;
    if (to < std::int64_t(parts.size()))
        before = parts[std::size_t(to)].item.id;
    session_.apply([&](const Project& p) { return move_in_reel(p, item, before); }, tr("Move the shot"));
}

void ReelBench::go_to_chosen()
{
    const ReelPart* p = part();
    if (p && isVisible() && !p->frames.contains(viewing_.playhead()))
        viewing_.set_playhead(p->frames.begin);
}

void ReelBench::set_chapter()
{
    if (!chapter_->isModified() || !viewing_.film())
        return;
    const Seconds at = length_of(viewing_.playhead().value, viewing_.film()->rate());
    session_.apply([&](const Project& p) { return set_marker(p, at, chapter_->text().trimmed().toStdString()); },
                   tr("Set a chapter"));
}

void ReelBench::refresh()
{
    const ReelPage* reel = viewing_.reel();
    if (!reel)
        return;
    const Project& project = session_.project();
    const int shot = std::max(0, shots_->currentIndex());
    shots_->clear();
    for (const ShotPtr& s : project.shots)
        shots_->addItem(QString::fromStdString(s->name));
    shots_->setCurrentIndex(std::min(shot, shots_->count() - 1));
    list_->fill();
    int chosen = 0;
    for (std::size_t i = 0; project.reel.frame && i < offered_frames.size(); ++i)
        if (const auto& sides = offered_frames[i].second; *project.reel.frame == cv::Size(sides[0], sides[1]))
            chosen = int(i) + 1;
    const int own = int(offered_frames.size()) + 1; // set on the command line
    if (frame_->count() > own)
        frame_->removeItem(own);
    if (project.reel.frame && chosen == 0) {
        frame_->addItem(QStringLiteral("%1 × %2").arg(project.reel.frame->width).arg(project.reel.frame->height));
        chosen = own;
    }
    frame_->setCurrentIndex(chosen);
    fit_->setCurrentIndex(int(project.reel.fit));
    QStringList said;
    for (const std::string& note : reel_notes(*reel->film))
        said << QString::fromStdString(note);
    notes_->setText(said.isEmpty()
                        ? QString()
                        : said.front() +
                              (said.size() > 1 ? tr(" · and %n more", nullptr, int(said.size()) - 1) : QString()));
    notes_->setVisible(!said.isEmpty());
    notes_->setToolTip(said.join(QLatin1Char('\n')));
    refresh_film();
}

void ReelBench::refresh_film()
{
    const ReelPart* p = part();
    const ReelPage* reel = viewing_.reel();
    const bool last = p && reel && list_->chosen_row() == reel->film->parts().size() - 1;
    for (QWidget* w : std::initializer_list<QWidget*>{take_out_, speed_, lasts_, from_here_, to_here_, whole_})
        w->setEnabled(p != nullptr);
    for (QWidget* w : std::initializer_list<QWidget*>{kind_, join_length_, place_})
        w->setEnabled(p != nullptr && !last);
    if (!p || !reel)
        return;
    const Join& join = p->item.join;
    const double rate = session_.project().delivered_at.value().approx();
    const auto frames = [&](Seconds s) { return tr("%1 f").arg(std::lround(s.value.approx() * rate)); };
    kind_->setCurrentIndex(int(join.kind));
    show_text(join_length_, frames(join.length));
    place_->setCurrentIndex(int(join.place));
    join_length_->setVisible(join.kind != JoinKind::cut);
    place_->setVisible(join.kind != JoinKind::cut);
    colour_->setVisible(join.kind == JoinKind::dip && !last);
    direction_->setVisible(join.kind == JoinKind::wipe && !last);
    direction_->setCurrentIndex(std::max(0, direction_->findData(int(join.degrees))));
    show_text(speed_, QString::fromStdString(p->item.speed.den() == 1 || p->item.speed.den() > 1000
                                                 ? QString::number(p->item.speed.approx(), 'g', 6).toStdString()
                                                 : p->item.speed.text()));
    show_text(lasts_, p->item.lasts ? frames(*p->item.lasts) : QString());
    lasts_->setPlaceholderText(tr("%1 f").arg(p->frames.frames()));
    range_->setText(p->item.first || p->item.last ? tr("own range") : QString());
    follow_playhead();
}

/// At every frame that plays: only what depends on it.
void ReelBench::follow_playhead()
{
    const ReelPart* p = part();
    const bool here = p && p->frames.contains(viewing_.playhead());
    from_here_->setEnabled(here);
    to_here_->setEnabled(here);
    QString chapter;
    for (const ReelMarker& m : session_.project().reel.markers)
        if (m.at == length_of(viewing_.playhead().value, session_.project().delivered_at))
            chapter = QString::fromStdString(m.text);
    show_text(chapter_, chapter);
}

}
