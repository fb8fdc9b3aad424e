#include "app/steps/shoot/camera_part.h"

#include "app/theme/theme.h"
#include "app/widgets/layouts.h"
#include "core/steps/shoot/taking.h"

#include <QComboBox>
#include <QGridLayout>
#include <QHBoxLayout>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QScrollArea>
#include <QVBoxLayout>

#include <algorithm>

namespace frenlo::app {

std::optional<double> parse_setting(QString text)
{
    text = text.simplified().replace(QLatin1Char(','), QLatin1Char('.'));
    const auto end = std::find_if(text.begin(), text.end(), [](QChar c) { return c.isLetter(); });
    const std::string number = text.left(int(end - text.begin())).trimmed().toStdString();
    if (const auto seconds = shutter_seconds(number))
        return seconds;
    bool fine = false;
    const double v = QString::fromStdString(number).toDouble(&fine);
    return fine ? std::optional(v) : std::nullopt;
}

CameraPart::CameraPart(CameraDesk& desk, QWidget* parent)
    : QWidget(parent), desk_(desk),
      cameras_(
          choice(tr("Camera in use"), {}, tr("Cameras at a cable, video cameras, and a simulated one to try it with"))),
      again_(tool(tr("Look again"), tr("For cameras that were switched on since"))), state_(secondary({})),
      lock_(tool(tr("Lock all"), tr("Makes every setting manual, as it is now, so that photos do not differ by "
                                    "themselves"))),
      nothing_(secondary({})), settings_(new QWidget), grid_(new QGridLayout(settings_))
{
    auto* halves = new QHBoxLayout(this);
    halves->setContentsMargins(0, 0, 0, 0);
    halves->setSpacing(wide_gap);
    auto* left = new QVBoxLayout;
    left->setSpacing(7);
    cameras_->setMinimumWidth(180);
    state_->setWordWrap(true);
    state_->setAccessibleName(tr("State of the camera"));
    left->addWidget(heading(tr("Camera")));
    left->addWidget(one_row({cameras_, again_}));
    left->addWidget(state_);
    left->addWidget(one_row({lock_}));
    left->addStretch();
    auto* lead = secondary(tr("What is automatic changes from photo to photo. Set everything, then lock it."));
    lead->setWordWrap(true);
    left->addWidget(lead);
    halves->addLayout(left, 2);
    auto* right = new QVBoxLayout;
    right->setSpacing(4);
    right->addWidget(heading(tr("Settings")));
    right->addWidget(nothing_);
    grid_->setContentsMargins(0, 0, 0, 0);
    grid_->setHorizontalSpacing(gap);
    grid_->setVerticalSpacing(5);
    auto* scroll = new QScrollArea;
    scroll->setFrameShape(QFrame::NoFrame);
    scroll->setWidgetResizable(true);
    scroll->setWidget(settings_);
    right->addWidget(scroll, 1);
    halves->addLayout(right, 3);

    connect(again_, &QPushButton::clicked, &desk, &CameraDesk::look_for_cameras);
    connect(lock_, &QPushButton::clicked, &desk, &CameraDesk::lock_all);
    connect(cameras_, &QComboBox::activated, this, [this] {
        const std::string address = cameras_->currentData().toString().toStdString();
        address.empty() ? desk_.close() : desk_.open(address);
    });
    connect(&desk, &CameraDesk::found, this, &CameraPart::refresh_cameras);
    connect(&desk, &CameraDesk::state_changed, this, &CameraPart::refresh_cameras);
    connect(&desk, &CameraDesk::settings_changed, this, &CameraPart::refresh_settings);
    connect(&desk, &CameraDesk::state_changed, this, &CameraPart::refresh_settings);
    refresh_cameras();
    refresh_settings();
}

void CameraPart::refresh_cameras()
{
    const QSignalBlocker quiet(cameras_);
    cameras_->clear();
    cameras_->addItem(tr("none"), QString());
    for (const FoundCamera& c : desk_.found_cameras())
        cameras_->addItem(QString::fromStdString(c.name), QString::fromStdString(c.address));
    const QString open = QString::fromStdString(desk_.address());
    if (!open.isEmpty() && cameras_->findData(open) < 0)
        cameras_->addItem(desk_.name().isEmpty() ? open : desk_.name(), open);
    cameras_->setCurrentIndex(std::max(0, cameras_->findData(open)));
    again_->setEnabled(!desk_.looking());
    state_->setText(desk_.looking()    ? tr("Looking for cameras …")
                    : desk_.opening()  ? tr("It is being opened …")
                    : !desk_.is_open() ? tr("No camera is open.")
                                       : tr("%1 is open.").arg(desk_.name()));
}

void CameraPart::build_rows()
{
    for (const Row& r : rows_)
        for (QWidget* w : std::initializer_list<QWidget*>{r.choices, r.value, r.automatic})
            delete w;
    rows_.clear();
    while (QLayoutItem* item = grid_->takeAt(0)) {
        delete item->widget();
        delete item;
    }
    int line = 0;
    for (const CameraSetting& s : desk_.settings()) {
        Row row{s.key};
        const QString name = QString::fromStdString(s.name);
        grid_->addWidget(secondary(name), line, 0);
        if (s.choices.empty()) {
            const QString unit = QString::fromStdString(s.unit);
            row.value = field(
                name,
                tr("From %1 to %2")
                    .arg(
                        QString::fromStdString(setting_text({s.key, s.name, s.kind, s.least, 0, 0, 0, s.unit, {}, {}})),
                        QString::fromStdString(setting_text({s.key, s.name, s.kind, s.most, 0, 0, 0, s.unit, {}, {}}))),
                80);
            connect(row.value, &QLineEdit::returnPressed, this,
                    [this, key = s.key, f = row.value] { take_value(key, f); });
            grid_->addWidget(row.value, line, 1);
        } else {
            QStringList items;
            for (const std::string& c : s.choices)
                items << QString::fromStdString(c);
            row.choices = choice(name, items);
            connect(row.choices, &QComboBox::activated, this,
                    [this, key = s.key](int index) { desk_.set(key, index); });
            grid_->addWidget(row.choices, line, 1);
        }
        if (s.automatic) {
            row.automatic = tool(tr("automatic"), tr("Whether the camera sets it itself"));
            row.automatic->setAccessibleName(tr("%1 automatic").arg(name));
            row.automatic->setCheckable(true);
            connect(row.automatic, &QPushButton::clicked, this,
                    [this, key = s.key](bool on) { desk_.set_automatic(key, on); });
            grid_->addWidget(row.automatic, line, 2);
        }
        rows_.push_back(row);
        ++line;
    }
    grid_->setColumnStretch(3, 1);
    grid_->setRowStretch(line, 1);
}

void CameraPart::take_value(const std::string& key, QLineEdit* field)
{
    const auto value = parse_setting(field->text());
    mark_wrong(field, !value);
    if (!value)
        return;
    field->setModified(false);
    desk_.set(key, *value);
}

void CameraPart::refresh_settings()
{
    const auto& all = desk_.settings();
    const bool same = std::equal(all.begin(), all.end(), rows_.begin(), rows_.end(),
                                 [](const CameraSetting& s, const Row& r) { return s.key == r.key; });
    if (!same)
        build_rows();
    for (std::size_t i = 0; i < all.size(); ++i) {
        const Row& r = rows_[i];
        if (r.value)
            show_text(r.value, QString::fromStdString(setting_text(all[i])));
        else
            r.choices->setCurrentIndex(int(all[i].value));
        if (r.automatic)
            r.automatic->setChecked(all[i].automatic.value_or(false));
    }
    nothing_->setText(!desk_.is_open() ? tr("They are shown when a camera is open.")
                      : all.empty()    ? tr("Nothing of this camera can be set from here; set it by hand.")
                                       : QString());
    nothing_->setVisible(!nothing_->text().isEmpty());
    lock_->setEnabled(!automatic_settings(all).empty());
}

}
