#include "app/window/settings_page.h"

#include "app/theme/theme.h"
#include "app/widgets/layouts.h"
#include "app/widgets/value_field.h"
#include "app/work/background.h"
#include "core/source/preview_store.h"

#include <QComboBox>
#include <QFileDialog>
#include <QGridLayout>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>

#include <array>

namespace frenlo::app {

namespace {

constexpr double gigabyte = 1e9;
constexpr std::array rates{"24", "23.976", "25", "29.97", "30", "50", "59.94", "60", "12", "15"};

QString size_text(std::uintmax_t bytes)
{
    return bytes < 1'000'000'000 ? QDialog::tr("%1 MB").arg(double(bytes) / 1e6, 0, 'f', 0)
                                 : QDialog::tr("%1 GB").arg(double(bytes) / gigabyte, 0, 'f', 1);
}

}

SettingsPage::SettingsPage(Settings& settings, PreviewStore& previews, Background& background, QWidget* parent)
    : QDialog(parent), settings_(settings), previews_(previews), background_(background),
      starts_(choice(tr("What new photos begin with"), {tr("the hold that suits their kind"), tr("a hold of")})),
      rate_(choice(tr("Rate of new projects"), {})),
      counting_(choice(tr("How lengths are counted"),
                       {tr("minutes, seconds, frames"), tr("timecode"), tr("timecode, drop-frame where it is defined"),
                        tr("frames"), tr("seconds")})),
      theme_(choice(tr("Looks"), {tr("paper"), tr("dim room"), tr("as the desktop")})),
      gone_(choice(tr("Photos that are gone"),
                   {tr("say so, and wait"), tr("look for them beside the project and in its folders")})),
      hold_(field(tr("Hold of new photos"), tr("Frames (2 f) or seconds (0.15 s, 1/6 s)"), 90)),
      limit_(new ValueField({tr("at most"), tr("The least recently used go first"), QStringLiteral("GB"), 0.2, 500,
                             double(PreviewStore::usual_limit) / gigabyte, 1, 1, false})),
      size_(secondary({})), folder_(secondary({})),
      clear_(tool(tr("Clear them"), tr("They are made again when they are wanted; no photo is touched"))),
      choose_(tool(tr("Choose a folder…"), tr("Where there is room and a fast disk; from the next start on"))),
      usual_(tool(tr("Usual folder"), tr("From the next start on")))
{
    setAttribute(Qt::WA_DeleteOnClose);
    setWindowTitle(tr("Settings"));
    build();
    connect(starts_, &QComboBox::activated, this, &SettingsPage::take_beginnings);
    connect(rate_, &QComboBox::activated, this, &SettingsPage::take_beginnings);
    connect(hold_, &QLineEdit::editingFinished, this, &SettingsPage::take_beginnings);
    connect(counting_, &QComboBox::activated, this, [this](int at) {
        settings_.set_counting(all_countings[std::size_t(at)]);
        Q_EMIT counting_changed();
    });
    connect(theme_, &QComboBox::activated, this, [this](int at) {
        settings_.set_theme(ThemeChoice(at));
        Q_EMIT theme_changed();
    });
    connect(gone_, &QComboBox::activated, this, [this](int at) {
        settings_.set_looks_near_by(at == 1);
        Q_EMIT looks_near_by_changed();
    });
    connect(limit_, &ValueField::edited, this, [this](double gb) {
        limit_->show_value(gb);
        settings_.set_previews_limit(std::uintmax_t(gb * gigabyte));
        previews_.set_limit(settings_.previews_limit());
    });
    connect(clear_, &QPushButton::clicked, this, [this] {
        clear_->setEnabled(false);
        background_.run(
            this,
            [&store = previews_] {
                store.clear();
                return true;
            },
            [this](bool) { ask_size(); });
    });
    connect(choose_, &QPushButton::clicked, this, &SettingsPage::choose_folder);
    connect(usual_, &QPushButton::clicked, this, [this] {
        settings_.set_previews({});
        show_folder();
    });
    ask_size();
}

void SettingsPage::build()
{
    auto* grid = new QGridLayout(this);
    grid->setContentsMargins(24, 20, 24, 20);
    grid->setHorizontalSpacing(wide_gap);
    grid->setVerticalSpacing(10);
    int row = 0;
    const auto add = [&](const QString& name, std::initializer_list<QWidget*> widgets) {
        grid->addWidget(name.isEmpty() ? new QLabel : heading(name), row, 0, Qt::AlignLeft | Qt::AlignVCenter);
        grid->addLayout(line_of(widgets), row++, 1);
    };
    add(tr("New photos begin with"), {starts_, hold_});
    add(tr("New projects are delivered at"), {rate_, secondary(tr("frames a second"))});
    add(tr("Lengths are counted in"), {counting_});
    add(tr("Looks"), {theme_});
    add(tr("Photos that are gone when a project is opened"), {gone_});
    add(tr("Small versions of photos"), {limit_, size_, clear_});
    add({}, {folder_, choose_, usual_});
    grid->setColumnStretch(1, 1);

    const Beginnings begin = settings_.beginnings();
    starts_->setCurrentIndex(begin.hold ? 1 : 0);
    hold_->setText(QString::fromStdString(shown_hold(begin.hold.value_or(Frames{2}))));
    hold_->setEnabled(begin.hold.has_value());
    for (const char* rate : rates)
        rate_->addItem(QString::fromLatin1(rate));
    const QString rate = QString::fromStdString(begin.delivered_at.text());
    if (rate_->findText(rate) < 0)
        rate_->addItem(rate);
    rate_->setCurrentText(rate);
    for (std::size_t i = 0; i < all_countings.size(); ++i)
        if (all_countings[i] == settings_.counting())
            counting_->setCurrentIndex(int(i));
    theme_->setCurrentIndex(int(settings_.theme_choice()));
    gone_->setCurrentIndex(settings_.looks_near_by() ? 1 : 0);
    limit_->show_value(double(settings_.previews_limit()) / gigabyte);
    show_folder();
}

void SettingsPage::take_beginnings()
{
    Beginnings begin = settings_.beginnings();
    const auto hold = parse_hold(hold_->text().toStdString());
    const bool own = starts_->currentIndex() == 1;
    mark_wrong(hold_, own && !hold);
    hold_->setEnabled(own);
    if (own && !hold)
        return;
    begin.hold = own ? hold : std::nullopt;
    if (const auto rate = parse_rate(rate_->currentText().toStdString()))
        begin.delivered_at = *rate;
    settings_.set_beginnings(begin);
    Q_EMIT beginnings_changed();
}

void SettingsPage::choose_folder()
{
    const QString folder = QFileDialog::getExistingDirectory(this, tr("Where small versions of photos are to lie"));
    if (folder.isEmpty())
        return;
    settings_.set_previews(from_qt(folder) / "frenlo-previews"); // a folder of their own: it can be cleared
    show_folder();
}

void SettingsPage::show_folder()
{
    const auto own = settings_.previews();
    folder_->setText(to_qt(own.empty() ? PreviewStore::usual_folder() : own));
    usual_->setVisible(!own.empty());
}

void SettingsPage::ask_size()
{
    size_->setText(tr("counting …"));
    background_.run(
        this, [&store = previews_] { return store.bytes(); },
        [this](std::uintmax_t bytes) {
            size_->setText(tr("now %1").arg(size_text(bytes)));
            clear_->setEnabled(bytes > 0);
        });
}

}
