#pragma once
#include "core/base/problem.h"
#include "core/source/open_files.h"
#include "core/source/photo_file.h"
#include "core/source/preview_store.h"

#include <opencv2/core/mat.hpp>

namespace frenlo {

class SharedCache;

/// What to do about a photo that can be decoded in part only.
enum class Damage
{
    refuse, ///< it is a problem
    accept, ///< what there is will do
};

/// Which pixels a source gives. What is worked out of the same ones is the same.
enum class WhichPixels
{
    original,
    preview, ///< as large as a preview, or the original's where that is not enough
    seen,    ///< the original's; of a damaged photo, what there is
};

/// What a source remembers of what was made from its pixels.
struct SourceMemory
{
    SharedCache* cache = nullptr; ///< null: nothing
    WhichPixels pixels = WhichPixels::original;
};

/// Where the pixels of a photo come from. Everything that renders is given one, so that screen and export differ in
/// their source only. Safe from any thread.
class PhotoSource
{
public:
    virtual ~PhotoSource() = default;
    /// Pixels as decode.h says, also wide, at least this large where the photo is, of the whole photo. Others may have
    /// the same ones: they are not to be changed.
    [[nodiscard]] virtual Result<cv::Mat> pixels(const PhotoFile& photo, cv::Size at_least, Damage damage) const = 0;
    [[nodiscard]] virtual SourceMemory memory() const { return {}; }
    /// For the screen, which shows what there is: a picture without a part of another photo that cannot be read is
    /// better than none. What is written or measured is whole or a problem.
    [[nodiscard]] virtual bool what_there_is() const { return false; }
};

/// The photos themselves, decoded anew each time.
class Originals : public PhotoSource
{
public:
    /// memory: for what is made from them; must outlive this.
    explicit Originals(SharedCache* memory = nullptr) : memory_(memory) {}
    /// The clips among them, kept open.
    [[nodiscard]] OpenFiles& files() const { return files_; }
    [[nodiscard]] Result<cv::Mat> pixels(const PhotoFile& photo, cv::Size at_least, Damage damage) const override;
    [[nodiscard]] SourceMemory memory() const override { return {memory_, WhichPixels::original}; }

private:
    SharedCache* memory_;
    mutable OpenFiles files_;
};

enum class PreviewKind
{
    thumbnail,
    preview
};

/// The long side of each kind; a photo that is smaller stays as it is.
inline constexpr int thumbnail_side = 384;
inline constexpr int preview_side = 1280;

/// Thumbnails and player-sized previews: made once, kept on disk. A photo that is cut off gives the part that can be
/// decoded. Larger sizes than a preview come from the photo itself. Previews that were read lie in the store's memory.
class Previews : public PhotoSource
{
public:
    /// The store must outlive this.
    explicit Previews(PreviewStore& store) : store_(store) {}

    /// What they are made from.
    [[nodiscard]] const Originals& originals() const { return originals_; }

    /// Made and kept when missing. Making a preview makes the thumbnail too: decoding is what takes the time.
    [[nodiscard]] Result<cv::Mat> get(const PhotoFile& photo, PreviewKind kind) const;
    /// The preview of a photo that can be decoded whole; of one that cannot, what is wrong with it.
    [[nodiscard]] Result<cv::Mat> whole(const PhotoFile& photo) const;
    /// Of the preview, made and kept when missing; see sharpness_of(). 0 where it cannot be told.
    [[nodiscard]] double sharpness(const PhotoFile& photo) const;
    /// Whether get() would only have to read a small file.
    [[nodiscard]] bool ready(const PhotoFile& photo, PreviewKind kind) const;

    /// Damage is accepted here in any case: the screen shows what there is.
    [[nodiscard]] Result<cv::Mat> pixels(const PhotoFile& photo, cv::Size at_least, Damage damage) const override;
    [[nodiscard]] SourceMemory memory() const override { return {store_.memory(), WhichPixels::preview}; }
    [[nodiscard]] bool what_there_is() const override { return true; }

private:
    struct Made
    {
        cv::Mat pixels;
        std::string flaw;
    };
    [[nodiscard]] Result<cv::Mat> kept(const PhotoFile& photo, PreviewKind kind, bool cut_off) const;
    [[nodiscard]] Result<Made> make(const PhotoFile& photo, PreviewKind kind) const;
    cv::Mat thumbnail_of(const PhotoFile& photo, const cv::Mat& preview, bool cut_off) const;

    PreviewStore& store_;
    Originals originals_;
};

/// What measuring reads. Of a large photo whose format has 8 bits it is the preview, which one decoding makes for all
/// who measure after and for the screen; of others, and where more is asked for than a preview has, the photo itself.
class SmallVersions : public PhotoSource
{
public:
    /// The store must outlive this.
    explicit SmallVersions(PreviewStore& store) : previews_(store) {}
    [[nodiscard]] Result<cv::Mat> pixels(const PhotoFile& photo, cv::Size at_least, Damage damage) const override;

private:
    Previews previews_;
};

/// The largest size of this shape within a box with sides of this length; never larger than the shape itself.
cv::Size within_side(cv::Size shape, int side);

}
