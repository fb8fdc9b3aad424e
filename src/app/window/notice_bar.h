#pragma once
#include <QWidget>

#include <functional>
#include <utility>
#include <vector>

class QHBoxLayout;
class QLabel;
class QProgressBar;

namespace frenlo::app {

/// A line below the Route for what concerns the whole project: a message with what can be done about it, or the
/// progress of bringing photos in. Nothing modal, nothing that goes away by itself.
class NoticeBar : public QWidget
{
    Q_OBJECT
public:
    explicit NoticeBar(QWidget* parent = nullptr);

    using Actions = std::vector<std::pair<QString, std::function<void()>>>;
    /// Each action closes the notice. There is always a way to close it.
    void show_message(const QString& text, const Actions& actions = {});
    /// A quiet line: worth knowing, nothing to be settled.
    void show_quiet(const QString& text, const Actions& actions = {});
    void show_progress(double fraction, const QString& what, const std::function<void()>& stop);
    void end_progress();
    [[nodiscard]] QString text() const;

private:
    void show_text(const QString& text, const Actions& actions, bool quiet);
    void clear_actions();
    void add_action(const QString& text, const std::function<void()>& action);

    QLabel* text_;
    QProgressBar* progress_;
    QHBoxLayout* actions_;
    bool in_progress_ = false;
};

}
