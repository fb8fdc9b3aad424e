#pragma once
#include "app/sheet/layout.h"
#include "app/work/photo_loader.h"
#include "app/work/sorting.h"
#include "app/work/viewing.h"

#include <QAbstractScrollArea>

#include <optional>
#include <variant>

namespace frenlo::app {

struct Colours;

/// The page itself. In Sort: even tiles of all photos; else: rows of time, a photo as wide as its hold. Paints only what
/// is visible; tiles that are not there yet are plain and come by themselves.
class SheetView : public QAbstractScrollArea {
    Q_OBJECT
public:
    SheetView(Viewing& viewing, PhotoLoader& loader, Sorting& sorting, QWidget* parent = nullptr);

    [[nodiscard]] RowLength row_length() const { return row_length_; }
    void set_row_length(RowLength length);
    [[nodiscard]] int tile_width() const { return tile_width_; }
    void set_tile_width(int width);

    /// What is on the screen, for the loader.
    void describe(Situation& situation) const;
    /// Where a photo's tile is in the viewport, for tests and for "Show".
    [[nodiscard]] QRect tile_in_view(PhotoIndex photo) const;
    void scroll_to(PhotoIndex photo);

Q_SIGNALS:
    void looked_elsewhere(); ///< scrolled, resized, other layout: other tiles are wanted

protected:
    void paintEvent(QPaintEvent* event) override;
    void resizeEvent(QResizeEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void mouseReleaseEvent(QMouseEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;
    void scrollContentsBy(int dx, int dy) override;
    void focusInEvent(QFocusEvent* event) override;
    void focusOutEvent(QFocusEvent* event) override;

private:
    using Layout = std::variant<RowsLayout, GridLayout>;
    [[nodiscard]] bool in_sort() const { return viewing_.step() == Step::sort; }
    void relayout();
    void follow_playhead();
    [[nodiscard]] int page_height() const;
    [[nodiscard]] QRect page_rect_of(PhotoIndex photo) const;
    [[nodiscard]] std::optional<PhotoIndex> photo_at(QPoint in_view) const;
    [[nodiscard]] std::vector<PhotoIndex> photos_between(int page_top, int page_bottom) const;
    [[nodiscard]] cv::Size tile_box() const;
    void choose(PhotoIndex photo, Qt::KeyboardModifiers modifiers);

    /// What the mouse is doing while its button is down.
    enum class Drag {
        none,
        sweep, ///< selects
        maybe_move, ///< pressed on a selected tile
        move, ///< carries the selected photos
        first, ///< pulls the bracket at the start of a shot
        last, ///< and at its end
    };
    /// A bracket of a card under the mouse.
    struct Bracket
    {
        std::size_t part;
        bool first;
    };
    [[nodiscard]] std::optional<Bracket> bracket_at(QPoint in_view) const;
    void drag_bracket(QPoint in_view);
    void drag_photos(QPoint in_view);
    void sweep(QPoint in_view);
    void hover(QPoint in_view);
    [[nodiscard]] std::optional<PhotoIndex> neighbour(int key) const;

    void paint_rows(QPainter& painter, const RowsLayout& layout) const;
    void paint_row(QPainter& painter, const RowsLayout& layout, int row) const;
    void paint_cell(QPainter& painter, const RowsLayout& layout, int row, const Cell& cell) const;
    void paint_playhead(QPainter& painter, const RowsLayout& layout) const;
    void paint_grid(QPainter& painter, const GridLayout& layout) const;
    void paint_tile(QPainter& painter, const GridLayout& layout, PhotoIndex photo) const;
    void paint_caption(QPainter& painter, const QRect& tile, PhotoIndex photo) const;
    void paint_brackets(QPainter& painter, const GridLayout& layout) const;
    void paint_drop(QPainter& painter, const GridLayout& layout) const;
    /// The photo cut to fill, or whole at the left where there is room. Returns how wide it is.
    int paint_photo(QPainter& painter, const QRect& room, PhotoIndex photo) const;
    void paint_selection(QPainter& painter, const QRect& around, bool current) const;

    Viewing& viewing_;
    PhotoLoader& loader_;
    Sorting& sorting_;
    Drag drag_ = Drag::none;
    QPoint pressed_at_;
    std::size_t dragged_part_ = 0;
    std::uint64_t gesture_ = 0; ///< one drag is one step
    std::optional<PhotoIndex> drop_; ///< where carried photos would go
    RowLength row_length_ = RowLength::one;
    int tile_width_ = 104;
    Layout layout_;
};

}
