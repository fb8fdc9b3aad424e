#include "app/steps/sort/shot_list.h"

#include "app/theme/theme.h"
#include "app/widgets/layouts.h"
#include "core/base/text.h"
#include "core/project/edits.h"
#include "core/source/names.h"
#include "core/steps/sort/rhythm.h"

#include <QHBoxLayout>
#include <QHeaderView>
#include <QLabel>
#include <QLineEdit>
#include <QSignalBlocker>
#include <QTreeWidget>
#include <QVBoxLayout>

#include <algorithm>

namespace frenlo::app {

namespace {

/// "ferry_0001 – 0048"
QString file_range(const Shot& shot, PhotoIndex begin, PhotoIndex end)
{
    if (end <= begin)
        return {};
    const auto stem = [&](PhotoIndex p) { return QString::fromStdString(shown_stem(*shot.photos[p.at()].photo)); };
    QString first = stem(begin);
    QString last = stem(end - 1);
    if (first == last)
        return first;
    const PhotoFile &from = *shot.photos[begin.at()].photo, &to = *shot.photos[(end - 1).at()].photo;
    if (is_one_of_several(from) && from.file == to.file)
        return first + QStringLiteral(" – ") + QString::number(to.picture + 1);
    if (const auto a = numbered(shot.photos[begin.at()].photo->file),
        b = numbered(shot.photos[(end - 1).at()].photo->file);
        a && b && a->before == b->before)
        last = last.mid(QString::fromStdString(shown_path(b->before)).size());
    return first + QStringLiteral(" – ") + last;
}

QString kind_text(ShotKind kind)
{
    switch (kind) {
    case ShotKind::hand_moved:
        return ShotList::tr("hand-moved");
    case ShotKind::time_lapse:
        return ShotList::tr("time-lapse");
    case ShotKind::walked:
        return ShotList::tr("walked");
    case ShotKind::unknown:
        break;
    }
    return {};
}

/// "90 s", "2 min", "1.5 h"; a bare number is minutes.
std::optional<Seconds> parse_pause(QString text)
{
    text = text.trimmed().toLower();
    const std::pair<const char*, int> units[] = {{"min", 60}, {"h", 3600}, {"s", 1}, {"m", 60}, {"", 60}};
    for (const auto& [unit, seconds] : units)
        if (text.endsWith(QLatin1String(unit))) {
            const auto number = parse_fraction(trimmed(text.left(text.size() - int(std::strlen(unit))).toStdString()));
            if (!number || *number <= Fraction(0) || *number > Fraction(100'000))
                return std::nullopt;
            return Seconds{*number * Fraction(seconds)};
        }
    return std::nullopt;
}

}

ShotList::ShotList(Session& session, Viewing& viewing, SortController& sort_controller, QWidget* parent)
    : QWidget(parent), session_(session), viewing_(viewing), sort_controller_(sort_controller), heading_(heading({})),
      list_(new QTreeWidget), pause_line_(new QWidget), pause_(new QLineEdit)
{
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(6);
    column->addWidget(heading_);
    list_->setAccessibleName(tr("List of shots"));
    list_->setColumnCount(3);
    list_->setHeaderHidden(true);
    list_->setRootIsDecorated(false);
    list_->setEditTriggers(QAbstractItemView::DoubleClicked | QAbstractItemView::EditKeyPressed);
    list_->setTextElideMode(Qt::ElideRight);
    list_->setFrameShape(QFrame::NoFrame);
    list_->header()->setSectionResizeMode(0, QHeaderView::ResizeToContents);
    list_->header()->setSectionResizeMode(1, QHeaderView::Stretch);
    list_->header()->setSectionResizeMode(2, QHeaderView::ResizeToContents);
    list_->header()->setStretchLastSection(false);
    column->addWidget(list_, 1);

    auto* row = new QHBoxLayout(pause_line_);
    row->setContentsMargins(0, 0, 0, 0);
    row->setSpacing(6);
    row->addWidget(secondary(tr("A pause over")));
    pause_->setAccessibleName(tr("Pause that ends a shot"));
    pause_->setToolTip(tr("As 90 s, 2 min or 1.5 h; empty for the pause that the photos' own intervals suggest"));
    pause_->setFixedWidth(66);
    row->addWidget(pause_);
    row->addWidget(secondary(tr("ends a shot")));
    row->addStretch();
    column->addWidget(pause_line_);

    connect(&session, &Session::changed, this, &ShotList::fill);
    connect(&viewing, &Viewing::shot_changed, this, &ShotList::fill);
    connect(&viewing, &Viewing::selection_changed, this, &ShotList::mark_current);
    connect(&sort_controller, &SortController::pause_changed, this, &ShotList::refresh_pause);
    connect(pause_, &QLineEdit::returnPressed, this, &ShotList::take_pause);
    connect(list_, &QTreeWidget::currentItemChanged, this, [this](QTreeWidgetItem* item) {
        if (!item)
            return;
        const int at = list_->indexOfTopLevelItem(item);
        const Shot* shot = viewing_.shot();
        if (shot && std::size_t(at) < shot->parts.size())
            Q_EMIT show_photo(viewing_.shot_index(), shot->parts[std::size_t(at)].begin);
        else if (shot && shot->parts.empty())
            viewing_.set_shot(ShotIndex(at));
    });
    connect(list_, &QTreeWidget::itemChanged, this, [this](QTreeWidgetItem* item, int) {
        const int at = list_->indexOfTopLevelItem(item);
        const QString text = item->text(0);
        // The list is refilled by this edit: not while its editor is closing.
        QMetaObject::invokeMethod(
            this, [this, at, text] { name(at, text); }, Qt::QueuedConnection);
    });
    fill();
    refresh_pause();
}

QTreeWidgetItem* ShotList::add(const QString& name, const QString& files, const QString& count, const QString& tip)
{
    auto* item = new QTreeWidgetItem({name, files, count});
    item->setFlags(item->flags() | Qt::ItemIsEditable);
    item->setTextAlignment(2, Qt::AlignRight | Qt::AlignVCenter);
    item->setForeground(1, Colours::of(palette()).second_ink);
    QFont small = font();
    small.setPixelSize(11);
    item->setFont(1, small);
    for (int c = 0; c < 3; ++c)
        item->setToolTip(c, tip);
    list_->addTopLevelItem(item);
    return item;
}

void ShotList::fill_with_parts(const Shot& card)
{
    for (const Part& part : card.parts) {
        const auto begin = card.photos.begin() + part.begin.value, end = card.photos.begin() + part.end.value;
        const auto count = std::count_if(begin, end, [](const ShotPhoto& p) { return !p.aside; });
        const QString kind = kind_text(part.kind);
        QString why = QString::fromStdString(part.reason);
        if (!kind.isEmpty())
            why = kind + QStringLiteral(" · ") + why;
        add(QString::fromStdString(part.name), file_range(card, part.begin, part.end) + QLatin1Char('\n') + why,
            QString::number(count), tr("%1. Double-click or F2 names it.").arg(why));
    }
    if (const auto aside = std::int64_t(card.photos.size()) - photos_in_film(card); aside > 0) {
        auto* item =
            add(tr("Set aside"), {}, QString::number(aside), tr("Photos that belong to no shot or cannot be used"));
        item->setFlags(Qt::ItemIsEnabled);
        item->setForeground(0, Colours::of(palette()).second_ink);
    }
}

void ShotList::fill()
{
    const QSignalBlocker quiet(list_);
    list_->clear();
    const Shot* shown = viewing_.shot();
    const bool card = shown && !shown->parts.empty();
    heading_->setText(card ? tr("Shots found") : tr("Shots"));
    pause_line_->setVisible(card);
    if (card) {
        fill_with_parts(*shown);
    } else {
        for (const auto& shot : session_.project().shots) {
            const auto in_film = photos_in_film(*shot);
            const auto aside = std::int64_t(shot->photos.size()) - in_film;
            const QString kind = kind_text(shot->kind);
            add(QString::fromStdString(shot->name),
                file_range(*shot, PhotoIndex(0), PhotoIndex(std::int64_t(shot->photos.size()))) +
                    (kind.isEmpty() ? QString() : QLatin1Char('\n') + kind),
                aside > 0 ? tr("%1, %2 aside").arg(in_film).arg(aside) : QString::number(in_film),
                tr("Double-click or F2 names a shot"));
        }
    }
    mark_current();
}

void ShotList::mark_current()
{
    const Shot* shot = viewing_.shot();
    std::optional<std::size_t> row;
    if (shot && shot->parts.empty())
        row = viewing_.shot_index().at();
    else if (shot)
        row = part_of(*shot, viewing_.selection().current());
    const QSignalBlocker quiet(list_);
    list_->setCurrentItem(row ? list_->topLevelItem(int(*row)) : nullptr);
}

void ShotList::name(int row, const QString& text)
{
    const Shot* shot = viewing_.shot();
    if (!shot || row < 0)
        return;
    const std::string wanted = text.toStdString();
    if (shot->parts.empty())
        session_.apply([&](const Project& p) { return rename_shot(p, ShotIndex(row), wanted); }, tr("Name the shot"));
    else if (std::size_t(row) < shot->parts.size())
        session_.apply(
            [&](const Project& p) { return rename_part(p, viewing_.shot_index(), std::size_t(row), wanted); },
            tr("Name the shot"));
    fill();
}

void ShotList::take_pause()
{
    const bool own = !pause_->text().trimmed().isEmpty();
    const auto pause = own ? parse_pause(pause_->text()) : std::nullopt;
    mark_wrong(pause_, own && !pause);
    if (!own || pause)
        sort_controller_.search_again(pause);
}

void ShotList::refresh_pause()
{
    mark_wrong(pause_, false);
    const auto pause = sort_controller_.pause();
    pause_->setText(pause ? QString::fromStdString(shown_pause(pause->value.approx())) : QString());
}

}
