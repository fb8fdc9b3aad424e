#pragma once
#include "app/steps/export/exporter.h"
#include "app/steps/export/preset_shelf.h"
#include "app/steps/export/trade_view.h"
#include "app/work/viewing.h"
#include "core/export/export_list.h"

#include <QStringList>
#include <QTimer>
#include <QWidget>

class QCheckBox;
class QComboBox;
class QLabel;
class QLineEdit;
class QProgressBar;
class QPushButton;
class QSpinBox;

namespace frenlo::app {

/// Export: what to write, how large, how good, where; then it runs, can be stopped, and shows what it wrote.
class ExportBench : public QWidget
{
    Q_OBJECT
public:
    ExportBench(Background& background, Session& session, Viewing& viewing, Exporter& exporter, PresetShelf& shelf,
                QWidget* parent = nullptr);

Q_SIGNALS:
    /// To be written later, with others.
    void to_the_list(const ListedExport& listed);

private:
    QWidget* settings_part();
    QWidget* run_part();
    [[nodiscard]] const Preset& base_preset() const;
    /// Nothing where the size field makes no sense.
    [[nodiscard]] std::optional<ExportOrder> order() const;
    [[nodiscard]] QString proposed_file() const;
    void fill_formats();
    void fill_shapes();
    void take_format();
    void propose_file();
    void choose_file();
    void follow_ending();
    void plan_soon();
    void plan();
    [[nodiscard]] static QString extent_of(const ExportPlan& plan);
    void show_plan(const Result<ExportPlan>& plan);
    enum class There
    {
        ask,
        replace
    };
    /// there: what to do where something lies under the name already.
    void start(OnBadPhoto on_bad_photo, There there = There::ask);
    void put_on_list();
    void ask_about(const ExportPlan& plan, const std::filesystem::path& free);
    void show_notes();
    void show_finished();
    void refresh();

    Background& background_;
    Session& session_;
    Viewing& viewing_;
    Exporter& exporter_;
    PresetShelf& shelf_;
    QComboBox* format_;
    QComboBox* size_ = nullptr;
    QComboBox* fit_;
    QComboBox* shape_;
    QLabel* quality_label_;
    QSpinBox* quality_;
    QLabel* colours_label_;
    QSpinBox* colours_;
    QCheckBox* dither_;
    QLineEdit* file_;
    bool file_is_own_ = false; ///< chosen by the user: another shot or format changes only the ending
    QLineEdit* limit_;
    QSpinBox* times_;
    QPushButton* go_;
    QPushButton* list_;
    QPushButton* stop_;
    QProgressBar* progress_;
    QLabel* plan_;
    QLabel* notes_;
    QLabel* state_;
    TradeView* trade_;
    std::int64_t limit_asked_ = 0;
    QPushButton* hold_before_;
    QPushButton* play_;
    QPushButton* show_folder_;
    struct Planned
    {
        Project project;
        ExportOrder order;
        ExportPlan plan;
    };
    std::optional<Planned> planned_; ///< what is shown, until it is written
    QTimer plan_timer_, estimate_timer_;
    std::uint64_t plan_number_ = 0;
    std::uint64_t start_number_ = 0; ///< of the last that was asked for: until it runs, another may be
    QLabel* checking_;
    QWidget* question_;
    QLabel* question_text_;
    QPushButton* write_other_;
    std::filesystem::path other_name_; ///< a free one
    OnBadPhoto asked_for_ = OnBadPhoto::stop;
    QStringList plan_notes_;
    bool can_export_ = false;
};

}
