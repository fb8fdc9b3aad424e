#pragma once
#include "app/steps/reel/reel_list.h"

#include <QWidget>

#include <functional>

class QComboBox;
class QLabel;
class QLineEdit;
class QPushButton;

namespace frenlo::app {

/// Order and joins: which films follow one another, how each goes over into the next, and the Reel's frame.
class ReelBench : public QWidget
{
    Q_OBJECT
public:
    ReelBench(Session& session, Viewing& viewing, QWidget* parent = nullptr);

    /// The film in hand one place up or down.
    void carry(int by);
    void take_out();

private:
    QWidget* films_part();
    QWidget* film_part();
    void refresh();
    void refresh_film();
    void follow_playhead();
    void add_film();
    void change(const QString& name, const std::function<void(ReelItem&)>& how);
    void change_join(const QString& name, const std::function<void(Join&)>& how);
    void go_to_chosen();
    void take_length(QLineEdit* field, const std::function<void(ReelItem&, Seconds)>& how, const QString& name);
    void set_chapter();
    [[nodiscard]] const ReelPart* part() const;

    Session& session_;
    Viewing& viewing_;
    ReelList* list_;
    QComboBox* shots_;
    QPushButton* take_out_;
    QComboBox* kind_;
    QLineEdit* join_length_;
    QComboBox* place_;
    QPushButton* colour_;
    QComboBox* direction_;
    QLineEdit* speed_;
    QLineEdit* lasts_;
    QLabel* range_;
    QPushButton* from_here_;
    QPushButton* to_here_;
    QPushButton* whole_;
    QComboBox* frame_;
    QComboBox* fit_;
    QLineEdit* chapter_;
    QLabel* notes_;
};

}
