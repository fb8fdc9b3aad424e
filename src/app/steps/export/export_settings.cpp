// What is set in Export: format, size, limits, and where it goes.
#include "app/steps/export/export_bench.h"
#include "app/steps/export/preset_menu.h"
#include "app/theme/theme.h"
#include "app/widgets/layouts.h"
#include "core/base/folders.h"
#include "core/picture/step_pictures.h"

#include <QCheckBox>
#include <QComboBox>
#include <QFileDialog>
#include <QGridLayout>
#include <QHBoxLayout>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QRegularExpression>
#include <QSignalBlocker>
#include <QSpinBox>
#include <QStandardPaths>

#include <algorithm>

namespace frenlo::app {

namespace {

QString titled(const Preset& p)
{
    return QString::fromStdString(p.title) +
           QStringLiteral(" (%1)").arg(QString::fromStdString(std::string(format_of(p).ending())));
}

/// "1280 × 720", "1280x", "x720", "1280": sides in pixels, 0 for one that follows.
std::optional<cv::Size> parse_size(QString text)
{
    text.replace(QChar(0x00D7), QLatin1Char('x')).remove(QLatin1Char(' '));
    static const QRegularExpression form(QStringLiteral("^(\\d{0,5})(?:x(\\d{0,5}))?$"));
    const auto m = form.match(text);
    if (!m.hasMatch())
        return std::nullopt;
    const cv::Size size(m.captured(1).toInt(), m.captured(2).toInt());
    if (size.width <= 0 && size.height <= 0)
        return std::nullopt;
    return size;
}

/// "2 MB", "800 kB"; nothing for what is no size.
std::optional<std::int64_t> parse_bytes(QString text)
{
    text = text.trimmed();
    double unit = 1e6;
    for (const auto& [name, size] : {std::pair("kB", 1e3), std::pair("MB", 1e6), std::pair("GB", 1e9)})
        if (text.endsWith(QLatin1String(name), Qt::CaseInsensitive)) {
            text.chop(2);
            unit = size;
            break;
        }
    bool number = false;
    const double n = text.trimmed().replace(QLatin1Char(','), QLatin1Char('.')).toDouble(&number) * unit;
    constexpr double least = 1e3, most = 1e12;
    return number && n >= least && n <= most ? std::optional(std::int64_t(n)) : std::nullopt;
}

/// As parse_bytes reads it back.
QString bytes_text(std::int64_t bytes)
{
    return bytes >= 1'000'000 ? QStringLiteral("%1 MB").arg(double(bytes) / 1e6, 0, 'g', 6)
                              : QStringLiteral("%1 kB").arg(double(bytes) / 1e3, 0, 'g', 6);
}

}

QWidget* ExportBench::settings_part()
{
    auto* part = new QWidget;
    auto* grid = new QGridLayout(part);
    grid->setContentsMargins(0, 0, 0, 0);
    grid->setHorizontalSpacing(12);
    grid->setVerticalSpacing(gap);
    grid->setColumnStretch(1, 1);

    format_ = new QComboBox;
    format_->setAccessibleName(tr("Format"));
    fill_formats();
    connect(&shelf_, &PresetShelf::changed, this, &ExportBench::fill_formats);
    auto* keep = new PresetMenu(shelf_, [this]() -> std::optional<Preset> {
        const auto o = order();
        return o ? std::optional(o->preset) : std::nullopt;
    });
    connect(keep, &PresetMenu::kept, this, [this](const QString& name) {
        format_->setCurrentIndex(format_->findData(name));
        take_format();
    });
    grid->addWidget(secondary(tr("Format")), 0, 0);

    auto* sizes = new QHBoxLayout;
    sizes->setSpacing(gap);
    size_ = new QComboBox;
    size_->setEditable(true);
    size_->setInsertPolicy(QComboBox::NoInsert);
    size_->setAccessibleName(tr("Size"));
    size_->lineEdit()->setAccessibleName(tr("Size"));
    size_->setToolTip(tr("Width × height in pixels; with one side left out it follows the photos' shape"));
    size_->setMinimumWidth(140);
    fit_ = new QComboBox;
    fit_->setAccessibleName(tr("Fit"));
    fit_->addItem(tr("whole photo, bars beside it"), int(Fit::inside));
    fit_->addItem(tr("fill the frame, cut the rest"), int(Fit::fill));
    shape_ = choice(tr("Shape"), {},
                    tr("The shot is dressed for several shapes: which one is written. By itself, that "
                       "of the size, or the one in hand"));
    shape_->hide();
    quality_label_ = secondary(tr("Quality"));
    quality_ = new QSpinBox;
    quality_->setRange(1, 100);
    quality_->setAccessibleName(tr("Quality"));
    colours_label_ = secondary(tr("Colours"));
    colours_ = new QSpinBox;
    colours_->setRange(4, 256);
    colours_->setAccessibleName(tr("Colours"));
    dither_ = new QCheckBox(tr("dither"));
    limit_ = field(tr("Largest file"),
                   tr("2 MB, 800 kB: the best quality, colours and size below it are found. Empty: "
                      "no limit"),
                   72);
    limit_->setPlaceholderText(tr("any size"));
    times_ = new QSpinBox;
    times_->setRange(1, most_times);
    times_->setAccessibleName(tr("How often"));
    times_->setToolTip(tr("The film so often, one after another: for places that refuse what is too short"));
    times_->setSuffix(tr(" ×"));
    for (QWidget* w : std::initializer_list<QWidget*>{size_, shape_, fit_, secondary(tr("at most")), limit_,
                                                      secondary(tr("repeat")), times_})
        sizes->addWidget(w);
    sizes->addStretch();
    fit_->hide();
    auto* signatures = new QHBoxLayout;
    signatures->setSpacing(gap);
    for (QWidget* w :
         std::initializer_list<QWidget*>{format_, quality_label_, quality_, colours_label_, colours_, dither_})
        signatures->addWidget(w);
    signatures->addStretch();
    signatures->addWidget(keep);
    grid->addWidget(secondary(tr("Size")), 1, 0);
    grid->addLayout(signatures, 0, 1);
    grid->addLayout(sizes, 1, 1);

    auto* where = new QHBoxLayout;
    where->setSpacing(gap);
    file_ = new QLineEdit;
    file_->setMinimumWidth(160);
    file_->setAccessibleName(tr("File"));
    auto* choose = tool(tr("Choose…"));
    where->addWidget(file_, 1);
    where->addWidget(choose);
    grid->addWidget(secondary(tr("File")), 2, 0);
    grid->addLayout(where, 2, 1);

    connect(format_, &QComboBox::activated, this, &ExportBench::take_format);
    connect(size_, &QComboBox::currentTextChanged, this, &ExportBench::plan_soon);
    connect(fit_, &QComboBox::activated, this, &ExportBench::plan_soon);
    connect(shape_, &QComboBox::activated, this, &ExportBench::plan_soon);
    connect(quality_, &QSpinBox::valueChanged, this, &ExportBench::plan_soon);
    connect(times_, &QSpinBox::valueChanged, this, &ExportBench::plan_soon);
    connect(limit_, &QLineEdit::editingFinished, this, &ExportBench::plan_soon);
    connect(colours_, &QSpinBox::valueChanged, this, &ExportBench::plan_soon);
    connect(file_, &QLineEdit::textEdited, this, [this] {
        file_is_own_ = true;
        plan_soon();
    });
    connect(file_, &QLineEdit::editingFinished, this, &ExportBench::follow_ending);
    connect(choose, &QPushButton::clicked, this, &ExportBench::choose_file);
    return part;
}

/// Seen only where the shot, or one of the Reel's, is dressed for several.
void ExportBench::fill_shapes()
{
    QStringList shapes;
    const auto add = [&](const Shot& shot) {
        for (const std::string& shape : other_shapes(shot))
            if (const QString text = QString::fromStdString(shape); !shapes.contains(text))
                shapes << text;
    };
    if (viewing_.on_reel())
        for (const ShotPtr& shot : session_.project().shots)
            add(*shot);
    else if (const Shot* shot = viewing_.shot())
        add(*shot);
    const QString chosen = shape_->currentData().toString();
    const QSignalBlocker quiet(shape_);
    shape_->clear();
    shape_->addItem(tr("as it is dressed"), QString());
    for (const QString& shape : shapes)
        shape_->addItem(tr("dressed for %1").arg(shape), shape);
    shape_->setCurrentIndex(std::max(0, shape_->findData(chosen)));
    shape_->setVisible(!shapes.isEmpty());
}

/// Frenlo's presets and the user's own; the one that is chosen stays so while it is there.
void ExportBench::fill_formats()
{
    const QString chosen = format_->currentData().toString();
    format_->clear();
    for (const Preset& p : shelf_.own())
        format_->addItem(titled(p), QString::fromStdString(p.name));
    if (!shelf_.own().empty())
        format_->insertSeparator(format_->count());
    for (const Preset& p : presets())
        format_->addItem(titled(p), QString::fromStdString(p.name));
    const int before = format_->findData(chosen);
    format_->setCurrentIndex(before >= 0 ? before : format_->findData(QString::fromStdString(presets().front().name)));
    if (size_ && format_->currentData().toString() != chosen)
        take_format();
}

const Preset& ExportBench::base_preset() const
{
    return shelf_.find(format_->currentData().toString());
}

std::optional<ExportOrder> ExportBench::order() const
{
    ExportOrder o;
    o.reel = viewing_.on_reel();
    if (viewing_.shot() && !o.reel)
        o.shot = viewing_.shot()->id;
    o.file = from_qt(file_->text().trimmed());
    o.preset = base_preset();
    if (size_->currentText() == size_->itemText(1)) {
        o.preset.long_side = 0;
        o.preset.size.reset();
    } else if (size_->currentText() != size_->itemText(0)) {
        o.preset.size = parse_size(size_->currentText());
        if (!o.preset.size)
            return std::nullopt;
    }
    if (o.preset.size && o.preset.size->width > 0 && o.preset.size->height > 0)
        o.preset.fit = Fit(fit_->currentData().toInt());
    o.preset.quality = quality_->value();
    o.preset.colours = colours_->value();
    o.preset.dither = dither_->isChecked();
    o.times = times_->value();
    o.shape = shape_->currentData().toString().toStdString();
    const bool limited = !limit_->text().trimmed().isEmpty() && !format_of(o.preset).stills();
    o.preset.most_bytes = limited ? parse_bytes(limit_->text()) : std::nullopt;
    mark_wrong(limit_, limited && !o.preset.most_bytes);
    if (limited && !o.preset.most_bytes)
        return std::nullopt;
    return o;
}

void ExportBench::take_format()
{
    const Preset& p = base_preset();
    const QSignalBlocker quiet_size(size_), quiet_quality(quality_), quiet_colours(colours_);
    size_->clear();
    limit_->setText(p.most_bytes ? bytes_text(*p.most_bytes) : QString());
    size_->addItems({tr("as the format says"), tr("as the photos"), QStringLiteral("3840 ×"),
                     QStringLiteral("1920 × 1080"), QStringLiteral("1920 ×"), QStringLiteral("1280 ×"),
                     QStringLiteral("1000 ×"), QStringLiteral("800 ×"), QStringLiteral("600 ×")});
    fit_->setCurrentIndex(fit_->findData(int(p.fit)));
    quality_->setValue(p.quality);
    colours_->setValue(p.colours);
    dither_->setChecked(p.dither);
    const Format& format = format_of(p);
    switch (format.kind) {
    case Format::Kind::film:
        go_->setText(tr("Export the film"));
        break;
    case Format::Kind::loop:
        go_->setText(tr("Export the loop"));
        break;
    case Format::Kind::stills:
        go_->setText(tr("Export the stills"));
        break;
    }
    quality_label_->setVisible(format.quality);
    quality_->setVisible(format.quality);
    for (QWidget* w : std::initializer_list<QWidget*>{colours_label_, colours_, dither_})
        w->setVisible(format.colours);
    propose_file();
}

QString ExportBench::proposed_file() const
{
    const Shot* shot = viewing_.shot();
    QString folder = QStandardPaths::writableLocation(QStandardPaths::MoviesLocation);
    // Beside the project; but films are not hidden where Frenlo keeps its own things, the demo among them.
    const auto own = data_folder().native() + '/';
    if (!session_.file().empty() && !session_.file().native().starts_with(own))
        folder = to_qt(session_.file().parent_path());
    QString name = viewing_.on_reel() ? session_.name() : shot ? QString::fromStdString(shot->name) : tr("film");
    name.replace(QLatin1Char('/'), QLatin1Char('-'));
    if (format_of(base_preset()).stills())
        name += QStringLiteral("_%04d");
    return folder + QLatin1Char('/') + name + QString::fromStdString(std::string(format_of(base_preset()).ending()));
}

void ExportBench::propose_file()
{
    if (!file_is_own_) {
        file_->setText(proposed_file());
    } else if (!format_of(base_preset()).fits(from_qt(file_->text()))) {
        auto changed = from_qt(file_->text());
        changed.replace_extension(format_of(base_preset()).ending());
        file_->setText(to_qt(changed));
    }
    plan_soon();
}

/// A name's ending chooses the format, as on the command line: the first of the list that has it.
void ExportBench::follow_ending()
{
    const auto file = from_qt(file_->text().trimmed());
    if (format_of(base_preset()).fits(file))
        return;
    for (int i = 0; i < format_->count(); ++i)
        if (const Preset* preset = find_preset(format_->itemData(i).toString().toStdString());
            preset && format_of(*preset).fits(file)) {
            format_->setCurrentIndex(i);
            take_format();
            return;
        }
}

void ExportBench::choose_file()
{
    auto* dialog = new QFileDialog(this, tr("Export to"), file_->text());
    dialog->setAcceptMode(QFileDialog::AcceptSave);
    dialog->setAttribute(Qt::WA_DeleteOnClose);
    dialog->selectFile(file_->text());
    connect(dialog, &QFileDialog::fileSelected, this, [this](const QString& file) {
        file_->setText(file);
        file_is_own_ = true;
        follow_ending();
        propose_file();
    });
    dialog->open();
}

}
