#include "app/steps/sort/sort_bench.h"

#include "app/steps/sort/clip_part.h"
#include "app/theme/theme.h"
#include "app/widgets/layouts.h"
#include "core/project/edits.h"

#include <QColorDialog>
#include <QComboBox>
#include <QHBoxLayout>
#include <QLabel>
#include <QPushButton>
#include <QSignalBlocker>
#include <QStackedWidget>
#include <QVBoxLayout>

#include <algorithm>

namespace frenlo::app {

namespace {

/// Backdrops that are offered by name.
struct NamedBackdrop
{
    const char* name;
    std::optional<Backdrop> colour;
};
constexpr std::array named_backdrops{
    NamedBackdrop{QT_TRANSLATE_NOOP("frenlo::app::SortBench", "none"), std::nullopt},
    NamedBackdrop{QT_TRANSLATE_NOOP("frenlo::app::SortBench", "black"), Backdrop{0, 0, 0}},
    NamedBackdrop{QT_TRANSLATE_NOOP("frenlo::app::SortBench", "white"), Backdrop{255, 255, 255}},
    NamedBackdrop{QT_TRANSLATE_NOOP("frenlo::app::SortBench", "mid-grey"), Backdrop{119, 119, 119}}};

QIcon swatch(const std::optional<Backdrop>& colour)
{
    QPixmap p(14, 14);
    p.fill(colour ? QColor((*colour)[0], (*colour)[1], (*colour)[2]) : QColor(Qt::transparent));
    return QIcon(p);
}

}

SortBench::SortBench(Background& background, Session& session, Viewing& viewing, Findings& findings,
                     SortController& sort_controller, Filer& filer, QWidget* parent)
    : QWidget(parent), session_(session), viewing_(viewing), pages_(new QStackedWidget),
      shots_(new ShotList(session, viewing, sort_controller)), list_(new FindingList(findings, sort_controller)),
      swap_(new SwapPage(session, viewing)), filing_(new FilingPage(session, filer)),
      clip_(new ClipPart(background, session, viewing)),
      swap_button_(tool(tr("Swap photos…"),
                        tr("Put a better or differently processed set of the same photos under all that was done"))),
      file_button_(tool(tr("Files in order…"), tr("Copy or move the photos to numbered names, a folder a shot"))),
      one_(tool(tr("All one shot"), tr("Forget what was found: all photos of the card are one shot"))),
      backdrop_(new QComboBox)
{
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(14, 10, 14, 10);
    column->addWidget(pages_);
    pages_->addWidget(main_page());
    pages_->addWidget(swap_);
    pages_->addWidget(filing_);
    connect(clip_, &ClipPart::failed, this, &SortBench::failed);
    connect(shots_, &ShotList::show_photo, this, &SortBench::show_photo);
    connect(list_, &FindingList::show_photo, this, &SortBench::show_photo);
    connect(list_, &FindingList::find_again, this, &SortBench::find_again);
    connect(swap_button_, &QPushButton::clicked, this, &SortBench::ask_better_set);
    connect(file_button_, &QPushButton::clicked, this, [this] {
        filing_->begin();
        pages_->setCurrentWidget(filing_);
    });
    connect(one_, &QPushButton::clicked, &sort_controller, &SortController::make_one_shot);
    connect(swap_, &SwapPage::ready, this, [this] { pages_->setCurrentWidget(swap_); });
    connect(swap_, &SwapPage::closed, this, [this] { pages_->setCurrentIndex(0); });
    connect(filing_, &FilingPage::closed, this, [this] { pages_->setCurrentIndex(0); });
    connect(&session, &Session::started, this, [this] { pages_->setCurrentIndex(0); });
    connect(&viewing, &Viewing::shot_changed, this, &SortBench::refresh);
    refresh();
}

QWidget* SortBench::main_page()
{
    auto* page = new QWidget;
    auto* column = new QVBoxLayout(page);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(gap);
    auto* halves = new QHBoxLayout;
    halves->setSpacing(wide_gap);
    for (QWidget* half : std::initializer_list<QWidget*>{shots_, list_}) {
        half->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Preferred); // equal halves, whatever they hold
        halves->addWidget(half, 1);
    }
    column->addLayout(halves, 1);
    column->addWidget(clip_);
    auto* row = new QHBoxLayout;
    row->setSpacing(gap);
    auto* bring = tool(tr("Bring a folder in…"), tr("Add the photos of a folder, and of the folders in it"));
    row->addWidget(bring);
    row->addWidget(swap_button_);
    row->addWidget(file_button_);
    row->addWidget(one_);
    row->addStretch();
    row->addWidget(backdrop_part());
    column->addLayout(row);
    connect(bring, &QPushButton::clicked, this, &SortBench::bring_folder_in);
    return page;
}

QWidget* SortBench::backdrop_part()
{
    backdrop_line_ = new QWidget;
    auto* row = new QHBoxLayout(backdrop_line_);
    row->setContentsMargins(0, 0, 0, 0);
    row->addWidget(secondary(tr("Backdrop")));
    backdrop_->setAccessibleName(tr("Backdrop"));
    backdrop_->setToolTip(
        tr("What lies behind transparent photos. With none, loops and PNG stay transparent; films are black there"));
    for (const auto& b : named_backdrops)
        backdrop_->addItem(swatch(b.colour), tr(b.name));
    backdrop_->addItem(tr("own colour…"));
    row->addWidget(backdrop_);
    connect(backdrop_, &QComboBox::activated, this, &SortBench::take_backdrop);
    return backdrop_line_;
}

void SortBench::take_backdrop()
{
    const auto set = [this](std::optional<Backdrop> colour) {
        session_.apply([&](const Project& p) { return set_backdrop(p, viewing_.shot_index(), colour); },
                       tr("Set the backdrop"));
        refresh();
    };
    const auto chosen = std::size_t(backdrop_->currentIndex());
    if (chosen < named_backdrops.size())
        return set(named_backdrops[chosen].colour);
    auto* dialog = new QColorDialog(this);
    dialog->setAttribute(Qt::WA_DeleteOnClose);
    connect(dialog, &QColorDialog::colorSelected, this, [set](const QColor& c) {
        set(Backdrop{std::uint8_t(c.red()), std::uint8_t(c.green()), std::uint8_t(c.blue())});
    });
    connect(dialog, &QColorDialog::rejected, this, &SortBench::refresh);
    dialog->open();
}

void SortBench::refresh()
{
    const Shot* shot = viewing_.shot();
    swap_button_->setEnabled(shot != nullptr);
    file_button_->setEnabled(shot != nullptr);
    one_->setVisible(shot && !shot->parts.empty());
    const bool alpha = shot && std::any_of(shot->photos.begin(), shot->photos.end(),
                                           [](const ShotPhoto& p) { return p.photo->alpha; });
    backdrop_line_->setVisible(alpha);
    if (!alpha)
        return;
    const auto named = std::find_if(named_backdrops.begin(), named_backdrops.end(),
                                    [&](const NamedBackdrop& b) { return b.colour == shot->backdrop; });
    const QSignalBlocker quiet(backdrop_);
    backdrop_->setItemIcon(int(named_backdrops.size()),
                           named == named_backdrops.end() ? swatch(shot->backdrop) : QIcon());
    backdrop_->setCurrentIndex(int(named - named_backdrops.begin()));
}

}
