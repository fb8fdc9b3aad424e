// Nothing is cut off: in windows small and large, and with texts that are longer than English ones.
#include "app/steps/step_page.h"
#include "app/widgets/flow_layout.h"
#include "app/widgets/page_stack.h"
#include "tests/app/person.h"
#include "tests/support/catch.h"
#include "tests/support/photos.h"

#include <QAbstractButton>
#include <QAbstractScrollArea>
#include <QComboBox>
#include <QLabel>
#include <QStyle>
#include <QStyleOptionComboBox>
#include <QTranslator>

#include <set>

using namespace frenlo;
using namespace frenlo::test;

namespace FRENLO_THIS_SOURCE {

namespace {

QString q(const char* text)
{
    return QString::fromUtf8(text);
}

/// Every text two fifths longer, as translations into many languages are; places for numbers stay.
class Longer : public QTranslator
{
public:
    [[nodiscard]] bool isEmpty() const override { return false; }
    [[nodiscard]] QString translate(const char*, const char* source, const char*, int) const override
    {
        const QString text = q(source);
        const auto more = (text.size() * 2 + 4) / 5;
        // In words of six letters, since other languages have spaces, too.
        QString tail;
        for (qsizetype i = 0; i < more; ++i)
            tail += i % 7 == 0 ? QLatin1Char(' ') : QChar(0x00E9);
        return text + tail;
    }
};

/// Seen in part only, by something around it that does not scroll.
bool is_clipped(const QWidget& w)
{
    for (const QWidget* around = w.parentWidget(); around; around = around->parentWidget()) {
        const auto* area = qobject_cast<const QAbstractScrollArea*>(around->parentWidget());
        const QRect here(w.mapTo(around, QPoint()), w.size());
        if (area && area->viewport() == around) // down it is scrolled to
            return area->horizontalScrollBarPolicy() == Qt::ScrollBarAlwaysOff &&
                   (here.left() < -1 || here.right() > around->width());
        if (!around->rect().adjusted(-1, -1, 1, 1).contains(here))
            return true;
        if (around->isWindow())
            break;
    }
    return false;
}

bool text_fits(const QWidget& w)
{
    constexpr int rounding = 2;
    if (const auto* label = qobject_cast<const QLabel*>(&w)) {
        if (label->text().isEmpty())
            return true;
        if (label->wordWrap())
            return label->heightForWidth(label->width()) <= label->height() + rounding;
        return label->sizeHint().width() <= label->width() + rounding;
    }
    if (const auto* button = qobject_cast<const QAbstractButton*>(&w))
        return button->text().isEmpty() || button->fontMetrics().horizontalAdvance(button->text()) <= button->width();
    if (const auto* combo = qobject_cast<const QComboBox*>(&w)) {
        QStyleOptionComboBox option;
        option.initFrom(combo);
        const QRect room =
            combo->style()->subControlRect(QStyle::CC_ComboBox, &option, QStyle::SC_ComboBoxEditField, combo);
        return combo->fontMetrics().horizontalAdvance(combo->currentText()) <= room.width() + rounding;
    }
    return true;
}

std::string called(const QWidget& w)
{
    std::string text = w.metaObject()->className();
    if (const auto* label = qobject_cast<const QLabel*>(&w))
        text += " \"" + label->text().left(60).toStdString() + '"';
    else if (const auto* button = qobject_cast<const QAbstractButton*>(&w))
        text += " \"" + button->text().toStdString() + '"';
    else
        text += " \"" + w.accessibleName().toStdString() + '"';
    return text + " " + std::to_string(w.width()) + " of " + std::to_string(w.sizeHint().width());
}

/// What is cut off on each step's pages, said for somebody who has to put it right.
std::set<std::string> cut_off(Person& p)
{
    std::set<std::string> cut;
    const auto look = [&](const std::string& where) {
        for (int i = 0; i < 30; ++i) { // what is laid out asks for more of the like, level by level
            QApplication::sendPostedEvents(nullptr, QEvent::LayoutRequest);
            QApplication::processEvents();
        }
        for (const QWidget* w : p.window().findChildren<QWidget*>()) {
            if (!w->isVisibleTo(&p.window()) || w->width() == 0 || w->inherits("QMenuBar") ||
                w->objectName().startsWith(q("qt_")))
                continue;
            const bool says = qobject_cast<const QLabel*>(w) || qobject_cast<const QAbstractButton*>(w) ||
                              qobject_cast<const QComboBox*>(w);
            if (!says)
                continue;
            if (!text_fits(*w))
                cut.insert(where + ": text is cut: " + called(*w));
            if (is_clipped(*w))
                cut.insert(where + ": is seen in part: " + called(*w));
        }
    };
    for (const app::StepModule* module : app::step_modules()) {
        p.window().viewing().set_step(module->info.key);
        QApplication::processEvents();
        look(std::string(module->info.key));
        p.look(
            (std::string("size-") + std::to_string(p.window().width()) + "-" + std::string(module->info.key)).c_str());
        // The pages that a bench has of its own.
        for (app::PageStack* pages : p.window().findChildren<app::PageStack*>())
            if (pages->isVisibleTo(&p.window()) && pages->count() > 1) {
                const int now = pages->currentIndex();
                for (int page = 0; page < pages->count(); ++page)
                    if (page != now) {
                        pages->setCurrentIndex(page);
                        look(std::string(module->info.key) + ", page " + std::to_string(page + 1));
                    }
                pages->setCurrentIndex(now);
            }
    }
    return cut;
}

void check_nothing_cut(Person& p)
{
    write_run(p.folder() / "sails", "sails", 30, {120, 80});
    p.bring_in(p.folder() / "sails");
    const auto cut = cut_off(p);
    for (const std::string& c : cut)
        UNSCOPED_INFO(c);
    CHECK(cut.empty());
}

}

TEST_CASE("nothing is cut off in a window of 1280 x 800 with its title bar, 1024 x 700, and large ones", "[sizes]")
{
    const QSize size = GENERATE(QSize(1280, 760), QSize(1024, 700), QSize(1920, 1080), QSize(3840, 2160));
    CAPTURE(size.width(), size.height());
    Person p(size);
    CHECK(p.window().size() == size);
    check_nothing_cut(p);
}

TEST_CASE("texts that are two fifths longer are not cut off at 1280 x 800", "[sizes][texts]")
{
    Longer longer;
    QApplication::installTranslator(&longer);
    {
        Person p;
        check_nothing_cut(p);
    }
    QApplication::removeTranslator(&longer);
}

TEST_CASE("a row that has no room goes on below, and its last one stands at the right where there is room",
          "[sizes][flow]")
{
    QWidget holder;
    auto* row = new app::FlowLayout(&holder, true);
    row->setContentsMargins(2, 3, 2, 3);
    row->setSpacing(4);
    std::vector<QWidget*> boxes;
    for (int i = 0; i < 4; ++i) {
        auto* box = new QWidget;
        box->setFixedSize(50, 20 + i);
        boxes.push_back(box);
        row->addWidget(box);
    }
    holder.show(); // what is hidden takes no room
    CHECK(row->sizeHint() == QSize(4 * 50 + 3 * 4 + 4, 23 + 6));
    CHECK(row->minimumSize() == QSize(54, 23 + 6));
    CHECK(row->heightForWidth(1000) == 23 + 6);
    CHECK(row->heightForWidth(120) == 21 + 4 + 23 + 6);
    CHECK(row->heightForWidth(10) == 20 + 21 + 22 + 23 + 3 * 4 + 6); // narrower than any: one below the other
    holder.resize(400, 40);
    row->activate();
    CHECK(boxes[0]->x() == 2);
    CHECK(boxes[2]->x() == 2 + 2 * 54);
    CHECK(boxes[3]->geometry().right() == 397);
    row->setGeometry({0, 0, 120, 80});
    CHECK(boxes[1]->x() == 56);
    CHECK(boxes[2]->pos() == QPoint(2, 3 + 21 + 4 + 0));
    CHECK(boxes[3]->x() == 56); // two lines: from the left
    boxes[1]->hide();
    row->setGeometry({0, 0, 170, 80});
    CHECK(row->heightForWidth(170) == 23 + 6);
    CHECK(boxes[2]->x() == 56);
    // What is taken out is no longer the layout's.
    QLayoutItem* taken = row->takeAt(0);
    REQUIRE(taken);
    CHECK(taken->widget() == boxes[0]);
    delete taken;
    CHECK(row->count() == 3);
    CHECK(row->takeAt(7) == nullptr);
    CHECK(row->itemAt(-1) == nullptr);
}

}
