#pragma once
#include "app/sheet/layout.h"
#include "app/sheet/moving_parts.h"
#include "app/sheet/row_hands.h"
#include "app/sheet/row_meter.h"
#include "app/sheet/sheet_actions.h"
#include "app/work/photo_loader.h"
#include "app/work/viewing.h"

#include <QAbstractScrollArea>

#include <functional>
#include <map>
#include <optional>
#include <variant>

namespace frenlo::app {

struct Colours;

/// The page itself. In tiles: even ones of all photos; else: rows of time, a photo as wide as its hold. Paints only
/// what is visible; tiles that are not there yet are plain and come by themselves.
class SheetView : public QAbstractScrollArea
{
    Q_OBJECT
public:
    /// moving: what narrow tiles show.
    SheetView(Viewing& viewing, PhotoLoader& loader, MovingParts& moving, QWidget* parent = nullptr);
    /// Before anything is done with it; not owned.
    void set_actions(TileActions& tiles, RowActions& rows);
    /// Of the step in view; null for none. Not owned.
    void set_meter(RowMeter* meter);

    /// How long a row is now, and whether it is so by itself, because the shot fits the page then. Each shot has its
    /// own.
    [[nodiscard]] RowLength row_length() const { return row_look_.length; }
    [[nodiscard]] bool fits() const { return !zoom_now().has_value(); }
    /// Nothing: as it fits.
    void set_row_length(std::optional<RowLength> length);
    [[nodiscard]] int tile_width() const { return tile_width_; }
    void set_tile_width(std::optional<int> width);
    /// Larger (above 0) or smaller, what lies at this point of the view staying there.
    void zoom(int steps, QPoint around);
    /// What is on the screen of the film, or of the photos.
    [[nodiscard]] FrameRange frames_in_view() const;
    [[nodiscard]] std::pair<PhotoIndex, PhotoIndex> photos_in_view() const; ///< the first and the last
    /// What was chosen for shots, to be kept between starts: "rows 4", "tiles 120". Called when it is chosen.
    struct ZoomStore
    {
        std::function<QString(ShotId, bool tiles)> load;
        std::function<void(ShotId, bool tiles, const QString&)> save;
    };
    void set_zoom_store(ZoomStore store);

    /// What is on the screen, for the loader.
    void describe(ViewState& situation) const;
    /// Where a photo's tile is in the viewport, for tests and for "Show".
    [[nodiscard]] QRect tile_in_view(PhotoIndex photo) const;
    /// What a screen reader says: how many photos there are, and of each "photo 12, HARB4838.jpg", "2 frames", and what
    /// else is to be known of it.
    [[nodiscard]] int photos() const;
    [[nodiscard]] QString photo_name(PhotoIndex photo) const;
    [[nodiscard]] QString photo_hold(PhotoIndex photo) const;
    [[nodiscard]] QString photo_state(PhotoIndex photo) const;
    [[nodiscard]] bool is_selected(PhotoIndex photo) const;
    [[nodiscard]] PhotoIndex current_photo() const;
    void scroll_to(PhotoIndex photo);
    void select_none();
    /// Where to take hold of the end of a photo's hold, and of the brackets of the kept range.
    [[nodiscard]] QPoint hold_edge_in_view(PhotoIndex photo) const;
    [[nodiscard]] QPoint range_bracket_in_view(bool first) const;
    [[nodiscard]] QRect frame_in_view(FrameIndex frame) const;
    /// Of the pictures that the player shows: what is ready is marked under the tiles.
    void set_player_size(cv::Size size);

Q_SIGNALS:
    void zoomed();
    void looked_elsewhere(); ///< scrolled, resized, other layout: other tiles are wanted

protected:
    void paintEvent(QPaintEvent* event) override;
    void resizeEvent(QResizeEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void mouseReleaseEvent(QMouseEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;
    void wheelEvent(QWheelEvent* event) override;
    void scrollContentsBy(int dx, int dy) override;
    void focusInEvent(QFocusEvent* event) override;
    void focusOutEvent(QFocusEvent* event) override;

private:
    void tell_current_photo();
    using Layout = std::variant<RowsLayout, GridLayout>;
    /// What is laid out now; the step in view may already want the other, until all have heard of it.
    [[nodiscard]] bool in_tiles() const { return std::holds_alternative<GridLayout>(layout_); }
    [[nodiscard]] MeterRow meter_row(const RowsLayout& layout, int row) const;
    [[nodiscard]] double film_place(QPoint page) const; ///< frames, within the film
    [[nodiscard]] std::optional<RowHands::Held> hand_at(QPoint in_view) const;
    [[nodiscard]] bool wants_tiles() const { return viewing_.step().tiles; }
    void relayout();
    [[nodiscard]] std::optional<int> zoom_now() const; ///< what was chosen for what is looked at; none: it fits
    void set_zoom(std::optional<int> zoom);
    void choose_look(QSize page, double shape);
    [[nodiscard]] int more_below() const;
    void prepare_meter();
    void follow_playhead();
    [[nodiscard]] int page_height() const;
    [[nodiscard]] QRect page_rect_of(PhotoIndex photo) const;
    [[nodiscard]] std::optional<PhotoIndex> photo_at(QPoint in_view) const;
    [[nodiscard]] std::vector<PhotoIndex> photos_between(int page_top, int page_bottom) const;
    [[nodiscard]] cv::Size tile_box() const;
    /// go: moves the player to the photo, too.
    void choose(PhotoIndex photo, Qt::KeyboardModifiers modifiers, bool go = true);

    /// What the mouse is doing while its button is down.
    enum class Drag
    {
        none,
        sweep,       ///< selects
        maybe_move,  ///< pressed on a selected tile
        move,        ///< carries the selected photos
        first,       ///< pulls the bracket at the start of a shot
        last,        ///< and at its end
        hold,        ///< pulls the end of a photo's hold
        range_first, ///< pulls the bracket at the start of the kept range
        range_last,  ///< and at its end
        scrub,       ///< moves the frame under the player
        hand,        ///< carries what the step has in its rows
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
    /// In the rows: what a press here takes hold of; none where it chooses a photo.
    [[nodiscard]] Drag handle_at(QPoint in_view) const;
    [[nodiscard]] std::optional<std::size_t> hold_end_at(QPoint page) const; ///< the span whose hold ends here
    void start_pulling_hold(std::size_t span);
    void drag_hold(QPoint in_view);
    void drag_range(QPoint in_view);
    void scrub(QPoint in_view);
    [[nodiscard]] QPoint on_page(QPoint in_view) const;
    void sweep(QPoint in_view);
    void hover(QPoint in_view);
    [[nodiscard]] std::optional<PhotoIndex> neighbour(int key) const;
    bool move_along(const QKeyEvent& event);

    /// part: of the viewport.
    void paint_rows(QPainter& painter, const RowsLayout& layout, const QRect& part) const;
    void paint_row(QPainter& painter, const RowsLayout& layout, int row) const;
    void paint_cell(QPainter& painter, const RowsLayout& layout, int row, const Cell& cell) const;
    void paint_made(QPainter& painter, const RowsLayout& layout, int row, const Cell& cell) const;
    void paint_playhead(QPainter& painter, const RowsLayout& layout) const;
    void paint_range(QPainter& painter, const RowsLayout& layout) const;
    void paint_meter(QPainter& painter, const QRect& cell, const FrameSpan& span, bool selected, bool kept) const;
    [[nodiscard]] bool is_kept(FrameIndex frame) const;
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
    MovingParts& moving_;
    TileActions* tile_actions_ = nullptr;
    RowActions* row_actions_ = nullptr;
    RowMeter* meter_ = nullptr;
    cv::Size player_size_;
    std::vector<PhotoIndex> pulled_; ///< photos whose holds are pulled
    std::int64_t pulled_from_ = 0;   ///< their frames when the pull began
    bool pulls_first_ = false;       ///< it is the film's first or last photo that has a hold of its own there
    bool pulls_last_ = false;
    std::optional<RowHands::Held> held_; ///< by the step's hands
    double held_from_ = 0;               ///< frames
    Drag drag_ = Drag::none;
    QPoint pressed_at_;
    int pressed_scroll_ = 0;
    std::size_t dragged_part_ = 0;
    std::uint64_t gesture_ = 0;      ///< one drag is one step
    std::optional<PhotoIndex> drop_; ///< where carried photos would go
    QRect playhead_at_;              ///< on the page, when it was last painted
    RowLook row_look_;
    int tile_width_ = 104;
    mutable std::map<std::pair<ShotId, bool>, std::optional<int>> zooms_; ///< of tiles or rows; none: it fits
    ZoomStore zoom_store_;
    int wheeled_ = 0; ///< eighths of a degree that are not yet a step
    Layout layout_;
};

}
