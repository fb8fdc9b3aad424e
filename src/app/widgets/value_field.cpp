#include "app/widgets/value_field.h"

#include "app/theme/theme.h"
#include "app/widgets/layouts.h"

#include <QHBoxLayout>
#include <QKeyEvent>
#include <QLabel>
#include <QLineEdit>
#include <QToolButton>
#include <QWheelEvent>

#include <algorithm>
#include <cmath>
#include <utility>

namespace frenlo::app {

ValueField::ValueField(const Spec& spec, QWidget* parent)
    : QWidget(parent), spec_(spec), value_(spec.neutral), label_(secondary(spec.name)),
      line_(field(spec.name, spec.tip, 84)), reset_(new QToolButton)
{
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(0, 0, 0, 0);
    row->setSpacing(2);
    row->addWidget(label_, 1);
    row->addWidget(line_);
    row->addWidget(reset_);
    label_->setToolTip(spec.tip);
    label_->setBuddy(line_);
    reset_->setText(QStringLiteral("×"));
    reset_->setAutoRaise(true);
    reset_->setFixedSize(18, 24);
    reset_->setFocusPolicy(Qt::TabFocus);
    reset_->setAccessibleName(tr("%1: as before").arg(spec.name));
    reset_->setToolTip(tr("Back to %1").arg(text_of(spec.neutral)));
    QSizePolicy keeps = reset_->sizePolicy();
    keeps.setRetainSizeWhenHidden(true);
    reset_->setSizePolicy(keeps);
    connect(line_, &QLineEdit::editingFinished, this, &ValueField::take_text);
    connect(reset_, &QToolButton::clicked, this, [this] {
        Q_EMIT begun();
        change_to(spec_.neutral);
    });
    show_value(spec.neutral);
}

QString ValueField::text_of(double value) const
{
    const QString number = QString::number(std::abs(value), 'f', spec_.decimals);
    const bool nought = number.toDouble() == 0;
    const QString sign = nought || (value > 0 && !spec_.sign) ? QString()
                         : value > 0                          ? QStringLiteral("+")
                                                              : QString(QChar(0x2212));
    return sign + number + QLatin1Char(' ') + spec_.unit;
}

void ValueField::show_value(double value)
{
    value_ = value;
    if (!line_->isModified() || !line_->hasFocus()) {
        line_->setText(text_of(value));
        line_->setCursorPosition(0);
        mark_wrong(line_, false);
    }
    reset_->setVisible(std::abs(value - spec_.neutral) >= 0.5 * std::pow(10, -spec_.decimals));
}

void ValueField::change_to(double value)
{
    const double wanted = std::clamp(value, spec_.least, spec_.most);
    line_->setModified(false);
    if (wanted == value_)
        return show_value(wanted);
    show_value(wanted);
    Q_EMIT edited(wanted);
}

void ValueField::take_text()
{
    if (!line_->isModified())
        return;
    QString text = line_->text();
    text.replace(QChar(0x2212), QLatin1Char('-')); // a minus as it is typeset
    while (!text.isEmpty() && !text.back().isDigit() && text.back() != QLatin1Char('.'))
        text.chop(1); // the unit
    text.remove(QLatin1Char(' '));
    if (text.count(QLatin1Char(',')) == 1 && !text.contains(QLatin1Char('.')) &&
        text.size() - text.indexOf(QLatin1Char(',')) != 4)
        text.replace(QLatin1Char(','), QLatin1Char('.')); // a decimal comma
    text.remove(QLatin1Char(','));                        // of thousands
    bool fits = false;
    const double value = text.toDouble(&fits);
    if (!fits || value < spec_.least || value > spec_.most) {
        mark_wrong(line_, true);
        line_->setToolTip(tr("From %1 to %2").arg(text_of(spec_.least), text_of(spec_.most)));
        return;
    }
    line_->setToolTip(spec_.tip);
    Q_EMIT begun();
    change_to(value);
}

void ValueField::keyPressEvent(QKeyEvent* event)
{
    const int by = event->key() == Qt::Key_Up ? 1 : event->key() == Qt::Key_Down ? -1 : 0;
    if (by == 0)
        return QWidget::keyPressEvent(event);
    if (!event->isAutoRepeat())
        Q_EMIT begun();
    change_to(value_ + by * spec_.step * (event->modifiers() & Qt::ShiftModifier ? 0.2 : 1));
}

void ValueField::wheelEvent(QWheelEvent* event)
{
    if (!line_->hasFocus())
        return QWidget::wheelEvent(event); // nothing changes in passing
    wheeled_ += event->angleDelta().y();
    const int steps = std::exchange(wheeled_, wheeled_ % 120) / 120;
    if (steps != 0) {
        Q_EMIT begun();
        change_to(value_ + steps * spec_.step);
    }
    event->accept();
}

}
