#include "app/theme/theme.h"

#include <QApplication>
#include <QFontDatabase>
#include <QStyleFactory>
#include <QWidget>

namespace frenlo::app {

namespace {

QString sheet_for(const Colours& c)
{
    QString s = QStringLiteral(R"(
QWidget { font-size: 13px; }
QToolTip { background: @raised; color: @ink; border: 1px solid @line; padding: 4px; }
QMenuBar { background: @paper; padding: 0 8px; }
QMenuBar::item { padding: 4px 8px; background: transparent; border-radius: 4px; }
QMenuBar::item:selected { background: @wash; color: @ink; }
QMenu { background: @raised; border: 1px solid @line; padding: 4px; }
QMenu::item { padding: 5px 24px 5px 12px; border-radius: 4px; }
QMenu::item:selected { background: @spruce; color: @onspruce; }
QMenu::item:disabled { color: @second; }
QMenu::separator { height: 1px; background: @line; margin: 4px 8px; }
QPushButton { background: @raised; border: 1px solid @line; border-radius: 5px; padding: 4px 10px; min-height: 18px; }
QPushButton:hover { border-color: @second; }
QPushButton:pressed { background: @wash; }
QPushButton:checked { background: @wash; border-color: @spruce; color: @ink; }
QPushButton:disabled { color: @second; background: @panel; }
QPushButton:focus { border: 2px solid @spruce; padding: 3px 9px; }
QPushButton[primary="true"] { background: @spruce; border-color: @spruce; color: @onspruce; font-weight: 600; }
QPushButton[primary="true"]:focus { border: 2px solid @ink; }
QPushButton[primary="true"]:disabled { background: @panel; border-color: @line; color: @second; }
QLineEdit, QComboBox, QSpinBox { background: @raised; border: 1px solid @line; border-radius: 5px; padding: 3px 6px; min-height: 20px;
  selection-background-color: @spruce; selection-color: @onspruce; }
QLineEdit:focus, QComboBox:focus, QSpinBox:focus { border: 2px solid @spruce; padding: 2px 5px; }
QLineEdit[wrong="true"] { border: 2px solid @clay; padding: 2px 5px; }
QComboBox::drop-down { border: none; width: 22px; }
QComboBox::down-arrow { image: url(:/icons/chevron-down@suffix.svg); width: 12px; height: 12px; }
QComboBox QAbstractItemView { background: @raised; border: 1px solid @line; selection-background-color: @spruce;
  selection-color: @onspruce; outline: none; padding: 4px; }
QSpinBox::up-button, QSpinBox::down-button { width: 0; }
QLabel[secondary="true"] { color: @second; }
QLabel[heading="true"] { font-weight: 600; }
QLabel[notice="true"] { background: @amberground; color: @amber; border-radius: 4px; padding: 6px 8px; }
QTabBar::tab { background: transparent; color: @second; padding: 7px 13px; border: 1px solid transparent; border-bottom: none;
  border-top-left-radius: 7px; border-top-right-radius: 7px; margin-top: 6px; }
QTabBar::tab:selected { background: @raised; color: @ink; font-weight: 600; border-color: @line; }
QTabBar::tab:focus { color: @spruce; }
QTabBar QToolButton { background: @panel; border: 1px solid @line; }
QSplitter::handle { background: @line; }
QSplitter::handle:hover { background: @spruce; }
QProgressBar { background: @panel; border: 1px solid @line; border-radius: 4px; height: 8px; text-align: center; }
QProgressBar::chunk { background: @spruce; border-radius: 3px; }
QScrollBar:vertical { background: transparent; width: 12px; margin: 0; }
QScrollBar::handle:vertical { background: @line; border-radius: 4px; min-height: 28px; margin: 2px; }
QScrollBar::handle:vertical:hover { background: @second; }
QScrollBar:horizontal { background: transparent; height: 12px; }
QScrollBar::handle:horizontal { background: @line; border-radius: 4px; min-width: 28px; margin: 2px; }
QScrollBar::add-line, QScrollBar::sub-line { width: 0; height: 0; }
QScrollBar::add-page, QScrollBar::sub-page { background: transparent; }
QScrollArea { border: none; background: transparent; }
QTreeWidget { background: transparent; border: none; outline: none; }
QTreeWidget::indicator { width: 14px; height: 14px; background: @raised; border: 1px solid @second; border-radius: 3px; }
QTreeWidget::indicator:checked { image: url(:/icons/check@suffix.svg); }
QTreeWidget::item { min-height: 22px; border-bottom: 1px solid @line; padding: 2px 4px; }
QHeaderView { background: transparent; }
QHeaderView::section { background: transparent; color: @second; border: none; border-bottom: 1px solid @line; padding: 2px 4px; }
QPushButton::menu-indicator { image: url(:/icons/chevron-down@suffix.svg); width: 12px; height: 12px;
  subcontrol-origin: padding; subcontrol-position: right center; right: 6px; }
QPushButton[menu="true"] { padding-right: 24px; }
QMenu { background: @raised; border: 1px solid @line; padding: 4px; }
QMenu::item { padding: 5px 18px; border-radius: 4px; }
QMenu::item:selected { background: @wash; color: @ink; }
QMenu::item:disabled { color: @second; }
QMenu::separator { height: 1px; background: @line; margin: 4px 8px; }
QTreeWidget::item:selected { background: @wash; color: @ink; }
QCheckBox { spacing: 6px; }
QCheckBox:focus { color: @spruce; }
QFrame[rule="true"] { background: @line; border: none; }
)");
    const std::pair<const char*, QString> names[] = {
        {"@amberground", c.amber_ground.name()},
        {"@onspruce", c.on_spruce.name()},
        {"@raised", c.raised.name()},
        {"@second", c.second_ink.name()},
        {"@spruce", c.spruce.name()},
        {"@amber", c.amber.name()},
        {"@panel", c.panel.name()},
        {"@paper", c.paper.name()},
        {"@clay", c.clay.name()},
        {"@line", c.line.name()},
        {"@wash", c.spruce_wash.name()},
        {"@ink", c.ink.name()},
        {"@suffix", c.ink.lightness() > 128 ? QStringLiteral("-light") : QString()}};
    for (const auto& [name, value] : names)
        s.replace(QLatin1String(name), value);
    return s;
}

void mark(QWidget* widget, const char* property)
{
    widget->setProperty(property, true);
}

}

void apply_theme(QApplication& application, ThemeName name)
{
    static const bool loaded = [] {
        QFontDatabase::addApplicationFont(QStringLiteral(":/fonts/FrenloText-Regular.otf"));
        QFontDatabase::addApplicationFont(QStringLiteral(":/fonts/FrenloText-SemiBold.otf"));
        return true;
    }();
    Q_UNUSED(loaded);
    QFont font(QStringLiteral("Frenlo Text"));
    font.setPixelSize(13);
    QApplication::setFont(font);
    QApplication::setStyle(QStyleFactory::create(QStringLiteral("Fusion")));
    const Colours colours = colours_of(name);
    QApplication::setPalette(colours.palette());
    application.setStyleSheet(sheet_for(colours));
}

void make_primary(QWidget* button)
{
    mark(button, "primary");
}

void make_menu_button(QWidget* button)
{
    mark(button, "menu");
}

void make_notice(QWidget* label)
{
    mark(label, "notice");
}

void make_secondary(QWidget* label)
{
    mark(label, "secondary");
}

void make_heading(QWidget* label)
{
    mark(label, "heading");
}

QString look_at_this(const QString& text)
{
    return QStringLiteral("▲ ") + text;
}

}
