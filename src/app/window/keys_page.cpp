#include "app/window/keys_page.h"

#include "app/theme/theme.h"
#include "app/widgets/layouts.h"

#include <QDialog>
#include <QGridLayout>
#include <QLabel>
#include <QObject>

namespace frenlo::app {

QWidget* make_keys_page(const std::vector<KeyHelp>& keys, QWidget* parent)
{
    auto* page = new QDialog(parent);
    page->setAttribute(Qt::WA_DeleteOnClose);
    page->setWindowTitle(QObject::tr("Keys"));
    auto* grid = new QGridLayout(page);
    grid->setContentsMargins(24, 20, 24, 20);
    grid->setHorizontalSpacing(wide_gap * 2);
    grid->setVerticalSpacing(6);
    int row = 0;
    for (const auto& [key, what] : keys) {
        grid->addWidget(heading(key), row, 0);
        grid->addWidget(new QLabel(what), row, 1);
        ++row;
    }
    return page;
}

}
