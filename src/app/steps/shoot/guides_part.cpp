#include "app/steps/shoot/guides_part.h"

#include "app/theme/theme.h"
#include "app/widgets/layouts.h"
#include "core/source/decode.h"

#include <QComboBox>
#include <QFileDialog>
#include <QGridLayout>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QSlider>

#include <algorithm>
#include <array>
#include <cmath>

namespace frenlo::app {

namespace {

struct MaskShape
{
    const char* name;
    Fraction shape;
};
const std::array mask_shapes{MaskShape{QT_TRANSLATE_NOOP("frenlo::app::GuidesPart", "no shape"), Fraction(0)},
                             MaskShape{"16:9", Fraction(16, 9)},
                             MaskShape{"2.39:1", Fraction(239, 100)},
                             MaskShape{"1.85:1", Fraction(185, 100)},
                             MaskShape{"4:3", Fraction(4, 3)},
                             MaskShape{"1:1", Fraction(1)},
                             MaskShape{"4:5", Fraction(4, 5)},
                             MaskShape{"9:16", Fraction(9, 16)}};

}

GuidesPart::GuidesPart(ShootController& controller, LiveView& view, Reference& reference, TakeKey& key, QWidget* parent)
    : QWidget(parent), controller_(controller), view_(view), reference_(reference), key_(key),
      mask_(choice(tr("Shape that stays light"), {},
                   tr("What a film of this shape leaves out is darkened; photos are taken whole"))),
      reference_file_(tool(tr("Choose a film or picture…"), tr("It is seen with the live picture; of a film, what it "
                                                               "shows when the next photo begins"))),
      reference_way_(choice(tr("Place of the reference"), {tr("over the live picture"), tr("under it")})),
      reference_strength_(new QSlider(Qt::Horizontal)), no_reference_(tool(tr("None"), tr("No reference any more"))),
      draw_(tool(tr("Draw a path"), tr("Drag over the live picture where something is to go: each photo gets a mark "
                                       "on it. Its corners can be moved while this is on"))),
      path_(choice(tr("Path"), {})), steps_(field(tr("Photos along the path"), tr("From its begin to its end"), 44)),
      ease_(choice(tr("How it goes along the path"),
                   {tr("evenly"), tr("begins slowly"), tr("ends slowly"), tr("begins and ends slowly")})),
      remove_(tool(tr("Remove"), tr("This path"))), learn_(tool(QString()))
{
    auto* grid = new QGridLayout(this);
    grid->setContentsMargins(0, 0, 0, 0);
    grid->setHorizontalSpacing(gap);
    grid->setVerticalSpacing(7);
    int row = 0;
    const auto line = [&](const QString& label, std::initializer_list<QWidget*> widgets) {
        grid->addWidget(secondary(label), row, 0);
        grid->addLayout(line_of(widgets), row++, 1);
    };
    for (const MaskShape& m : mask_shapes)
        mask_->addItem(tr(m.name));
    reference_strength_->setRange(5, 95);
    reference_strength_->setFixedWidth(80);
    reference_strength_->setAccessibleName(tr("Strength of the reference"));
    draw_->setCheckable(true);
    remove_->setAccessibleName(tr("Remove the path"));
    no_reference_->setAccessibleName(tr("No reference"));
    line(tr("Guides"),
         {guide(tr("Grid"), tr("Sixths of the picture"), &LiveLook::grid),
          guide(tr("Rulers"), tr("Percent of the picture's height, from its middle"), &LiveLook::rulers), mask_});
    line(tr("Light"),
         {guide(tr("Clipped"), tr("Stripes where a channel is white and has lost all detail, dots where one is black"),
                &LiveLook::clipped),
          guide(tr("Histogram"), tr("How much of the picture is how bright"), &LiveLook::histogram)});
    line(tr("Focus"), {guide(tr("Magnifier"),
                             tr("Every pixel of a part, twice as large, and how sharp it is; a double click on the "
                                "live picture says where"),
                             &LiveLook::magnifier)});
    line(tr("Reference"), {reference_file_, reference_way_, reference_strength_, no_reference_});
    line(tr("Paths"), {draw_, path_, steps_, secondary(tr("photos")), ease_, remove_});
    line(tr("Key that takes"), {learn_});
    grid->setColumnStretch(1, 1);
    grid->setRowStretch(row, 1);

    connect(mask_, &QComboBox::activated, this,
            [this](int index) { change([&](LiveLook& l) { l.mask = mask_shapes.at(std::size_t(index)).shape; }); });
    connect(reference_file_, &QPushButton::clicked, this, &GuidesPart::choose_reference);
    connect(no_reference_, &QPushButton::clicked, this, [this] { controller_.follow_film({}); });
    connect(reference_way_, &QComboBox::activated, this,
            [this](int index) { change([&](LiveLook& l) { l.reference_over = index == 0; }); });
    connect(reference_strength_, &QSlider::valueChanged, this,
            [this](int value) { change([&](LiveLook& l) { l.reference_strength = value / 100.0; }); });
    connect(draw_, &QPushButton::clicked, this, [this](bool on) { view_.set_drawing(on); });
    connect(path_, &QComboBox::activated, this, &GuidesPart::refresh_path);
    connect(steps_, &QLineEdit::editingFinished, this, [this] {
        bool fine = false;
        const int n = steps_->text().toInt(&fine);
        mark_wrong(steps_, !fine || n < 1);
        if (fine && n >= 1)
            change_path([&](MarkPath& p) { p.steps = n; });
    });
    connect(ease_, &QComboBox::activated, this,
            [this](int index) { change_path([&](MarkPath& p) { p.ease = Ease(index); }); });
    connect(remove_, &QPushButton::clicked, this, [this] {
        if (path_->currentIndex() >= 0)
            controller_.remove_path(std::size_t(path_->currentIndex()));
    });
    connect(learn_, &QPushButton::clicked, &key, &TakeKey::learn);
    connect(&key, &TakeKey::changed, this, &GuidesPart::refresh);
    connect(&reference, &Reference::changed, this, &GuidesPart::refresh);
    connect(&view, &LiveView::look_changed, this, &GuidesPart::refresh);
    refresh();
}

QPushButton* GuidesPart::guide(const QString& name, const QString& tip, bool LiveLook::*member)
{
    QPushButton* b = tool(name, tip);
    b->setCheckable(true);
    connect(b, &QPushButton::clicked, this, [this, member](bool on) { change([&](LiveLook& l) { l.*member = on; }); });
    guides_.emplace_back(b, member);
    return b;
}

void GuidesPart::change(const std::function<void(LiveLook&)>& how)
{
    LiveLook look = view_.look();
    how(look);
    view_.set_look(look);
}

void GuidesPart::choose_reference()
{
    auto* dialog = new QFileDialog(window(), tr("A film or a picture to follow"));
    dialog->setFileMode(QFileDialog::ExistingFile);
    dialog->setAttribute(Qt::WA_DeleteOnClose);
    connect(dialog, &QFileDialog::fileSelected, this,
            [this](const QString& file) { controller_.follow_film(from_qt(file)); });
    dialog->open();
}

void GuidesPart::take_drawn(const std::vector<cv::Point2d>& points)
{
    bool fine = false;
    const int steps = steps_->text().toInt(&fine);
    controller_.add_path(points, fine && steps > 0 ? steps : MarkPath().steps,
                         ease_->currentIndex() >= 0 ? Ease(ease_->currentIndex()) : MarkPath().ease);
    path_->setCurrentIndex(path_->count() - 1);
    refresh_path();
}

void GuidesPart::change_path(const std::function<void(MarkPath&)>& how)
{
    const auto paths = controller_.paths();
    const int at = path_->currentIndex();
    if (at < 0 || std::size_t(at) >= paths.size())
        return;
    MarkPath path = paths[std::size_t(at)];
    how(path);
    if (!(path == paths[std::size_t(at)]))
        controller_.change_path(std::size_t(at), path);
}

void GuidesPart::refresh_path()
{
    const auto paths = controller_.paths();
    const int at = path_->currentIndex();
    const bool there = at >= 0 && std::size_t(at) < paths.size();
    const MarkPath path = there ? paths[std::size_t(at)] : MarkPath();
    show_text(steps_, QString::number(path.steps));
    ease_->setCurrentIndex(int(path.ease));
    for (QWidget* w : std::initializer_list<QWidget*>{path_, remove_})
        w->setVisible(there);
}

void GuidesPart::refresh()
{
    const LiveLook& look = view_.look();
    for (const auto& [button, member] : guides_)
        button->setChecked(look.*member);
    for (std::size_t i = 0; i < mask_shapes.size(); ++i)
        if (mask_shapes[i].shape == look.mask)
            mask_->setCurrentIndex(int(i));
    const bool there = !reference_.file().empty();
    reference_file_->setText(there ? to_qt(reference_.file().filename()) : tr("Choose a film or picture…"));
    for (QWidget* w : std::initializer_list<QWidget*>{reference_way_, reference_strength_, no_reference_})
        w->setVisible(there);
    reference_way_->setCurrentIndex(look.reference_over ? 0 : 1);
    {
        const QSignalBlocker quiet(reference_strength_);
        reference_strength_->setValue(int(std::lround(look.reference_strength * 100)));
    }
    draw_->setChecked(view_.drawing());
    const auto paths = controller_.paths();
    if (std::size_t(path_->count()) != paths.size()) {
        path_->clear();
        for (std::size_t i = 0; i < paths.size(); ++i)
            path_->addItem(tr("path %1").arg(i + 1));
        path_->setCurrentIndex(path_->count() - 1);
    }
    refresh_path();
    learn_->setText(key_.learning() ? tr("Press the key …") : key_.key().toString(QKeySequence::NativeText));
    learn_->setAccessibleName(tr("Change the key that takes a photo"));
    learn_->setToolTip(tr("Any key, also that of a foot switch or a remote that types. Press here, then the key"));
}

}
