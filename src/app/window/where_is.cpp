#include "app/window/where_is.h"

#include "app/theme/theme.h"
#include "app/widgets/layouts.h"

#include <QAbstractButton>
#include <QAction>
#include <QKeyEvent>
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QMenu>
#include <QPainter>
#include <QStackedWidget>
#include <QTimer>
#include <QVBoxLayout>

#include <algorithm>
#include <set>

namespace frenlo::app {

namespace {

/// What can be worked with: a button, or whatever has a name and takes the keys.
bool is_control(const QWidget& w)
{
    return qobject_cast<const QAbstractButton*>(&w) ||
           (!w.accessibleName().isEmpty() && w.focusPolicy() != Qt::NoFocus);
}

QString name_of_control(const QWidget& w)
{
    QString name = w.accessibleName();
    if (name.isEmpty())
        if (const auto* button = qobject_cast<const QAbstractButton*>(&w))
            name = button->text();
    return name.remove(QLatin1Char('&')).trimmed();
}

/// Compared without case, accents and marks.
QString plain(const QString& text)
{
    QString out;
    for (const QChar c : text.normalized(QString::NormalizationForm_D).toLower())
        if (c.isLetterOrNumber())
            out += c;
        else if (!c.isMark())
            out += QLatin1Char(' ');
    return out.simplified();
}

/// 3: a word of it begins so; 2: it is in a word; 0: it is not there.
int strength_in(const QString& text, const QString& word)
{
    const qsizetype at = text.indexOf(word);
    if (at < 0)
        return 0;
    return at == 0 || text.contains(QLatin1Char(' ') + word) ? 3 : 2;
}

/// A frame that goes away.
class Pointer : public QWidget
{
public:
    explicit Pointer(QWidget& at) : QWidget(at.window())
    {
        constexpr int shown = 1600, beyond = 4;
        setAttribute(Qt::WA_TransparentForMouseEvents);
        setGeometry(QRect(at.mapTo(at.window(), QPoint()), at.size()).adjusted(-beyond, -beyond, beyond, beyond));
        show();
        raise();
        QTimer::singleShot(shown, this, &QObject::deleteLater);
    }

protected:
    void paintEvent(QPaintEvent*) override
    {
        QPainter painter(this);
        painter.setRenderHint(QPainter::Antialiasing);
        painter.setPen(QPen(Colours::of(palette()).clay, 3));
        painter.drawRoundedRect(QRectF(rect()).adjusted(1.5, 1.5, -1.5, -1.5), 7, 7);
    }
};

}

std::vector<WherePlace> places_of(const StepModule& module, StepPage& page)
{
    std::vector<WherePlace> places;
    std::set<QString> there;
    QString station = name_of(module);
    if (!page.page_name().isEmpty() && page.page_name() != station)
        station += QStringLiteral(" · ") + page.page_name();
    for (QWidget* root : {page.bench(), page.tools(), page.sheet_tools()}) {
        if (!root)
            continue;
        for (QWidget* w : root->findChildren<QWidget*>()) {
            const QString name = name_of_control(*w);
            if (!is_control(*w) || name.size() < 2 || !there.insert(name).second)
                continue;
            WherePlace p{name, {}, w->toolTip(), station, module.info.key, w, nullptr};
            for (const WhereWords& one : module.words)
                if (QString::fromUtf8(one.control) == name)
                    p.words += QLatin1Char(' ') + QString::fromUtf8(one.words);
            places.push_back(std::move(p));
        }
    }
    return places;
}

std::vector<WherePlace> places_of(const QList<QAction*>& menus)
{
    std::vector<WherePlace> places;
    for (QAction* menu : menus)
        if (menu->menu())
            for (QAction* a : menu->menu()->actions()) {
                if (a->isSeparator() || a->menu())
                    continue;
                QString name = a->text(), place = menu->text();
                name.remove(QLatin1Char('&'));
                place.remove(QLatin1Char('&'));
                places.push_back({name,
                                  {},
                                  a->shortcut().toString(QKeySequence::NativeText),
                                  QObject::tr("menu %1").arg(place),
                                  {},
                                  nullptr,
                                  a});
            }
    return places;
}

std::vector<const WherePlace*> found_places(const std::vector<WherePlace>& all, const QString& text)
{
    const QStringList wanted = plain(text).split(QLatin1Char(' '), Qt::SkipEmptyParts);
    std::vector<std::pair<int, const WherePlace*>> found;
    for (const WherePlace& p : all) {
        const QString name = plain(p.name), words = plain(p.words), tip = plain(p.tip + QLatin1Char(' ') + p.station);
        int sum = wanted.isEmpty() ? 1 : 0;
        for (const QString& w : wanted) {
            const int one = std::max({strength_in(name, w) * 4, strength_in(words, w) * 3, strength_in(tip, w)});
            if (one == 0) {
                sum = 0;
                break;
            }
            sum += one;
        }
        if (sum > 0)
            found.emplace_back(sum, &p);
    }
    std::stable_sort(found.begin(), found.end(), [](const auto& a, const auto& b) { return a.first > b.first; });
    std::vector<const WherePlace*> places;
    places.reserve(found.size());
    for (const auto& [sum, place] : found)
        places.push_back(place);
    return places;
}

bool show_pages_around(QWidget& control)
{
    QWidget* below = &control;
    for (QWidget* w = control.parentWidget(); w; below = w, w = w->parentWidget())
        if (auto* stack = qobject_cast<QStackedWidget*>(w); stack && stack->indexOf(below) >= 0)
            stack->setCurrentWidget(below);
    return control.isVisible();
}

void point_at(QWidget& control)
{
    new Pointer(control); // the window's, until it goes away
}

WhereIs::WhereIs(std::vector<WherePlace> places, QWidget* parent)
    : QWidget(parent, Qt::Dialog), places_(std::move(places)), text_(new QLineEdit), list_(new QListWidget)
{
    setAttribute(Qt::WA_DeleteOnClose);
    setWindowTitle(tr("Where is …?"));
    resize(560, 420);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(16, 14, 16, 14);
    column->setSpacing(gap);
    auto* lead =
        secondary(tr("Any word of the trade: align, deflicker, slow down, fps, crop, title … Enter goes there."));
    lead->setWordWrap(true);
    text_->setAccessibleName(tr("What is looked for"));
    text_->setPlaceholderText(tr("What are you looking for?"));
    list_->setAccessibleName(tr("Places"));
    list_->setFocusPolicy(Qt::NoFocus);
    for (QWidget* w : std::initializer_list<QWidget*>{lead, text_, list_})
        column->addWidget(w);
    text_->installEventFilter(this);
    connect(text_, &QLineEdit::textChanged, this, &WhereIs::search);
    connect(text_, &QLineEdit::returnPressed, this, &WhereIs::choose);
    connect(list_, &QListWidget::itemClicked, this, &WhereIs::choose);
    search();
}

/// Up, down and Esc while words are typed.
bool WhereIs::eventFilter(QObject* watched, QEvent* event)
{
    if (event->type() == QEvent::KeyPress) {
        const int key = static_cast<QKeyEvent*>(event)->key();
        if (key == Qt::Key_Up || key == Qt::Key_Down) {
            const int by = key == Qt::Key_Up ? -1 : 1;
            list_->setCurrentRow(std::clamp(list_->currentRow() + by, 0, std::max(0, list_->count() - 1)));
            return true;
        }
        if (key == Qt::Key_Escape) {
            close();
            return true;
        }
    }
    return QWidget::eventFilter(watched, event);
}

void WhereIs::search()
{
    constexpr std::size_t most = 60;
    listed_ = found_places(places_, text_->text());
    listed_.resize(std::min(listed_.size(), most));
    list_->clear();
    for (const WherePlace* p : listed_) {
        auto* item = new QListWidgetItem(p->name + QStringLiteral("   –   ") + p->station, list_);
        item->setToolTip(p->tip);
    }
    if (listed_.empty())
        (new QListWidgetItem(tr("Nothing is called so here. Try another word for it."), list_))
            ->setFlags(Qt::NoItemFlags);
    list_->setCurrentRow(0);
}

void WhereIs::choose()
{
    const int row = list_->currentRow();
    if (row < 0 || std::size_t(row) >= listed_.size())
        return;
    const WherePlace place = *listed_[std::size_t(row)];
    hide();
    Q_EMIT chosen(place);
    close();
}

}
