#include "core/sound/kept_peaks.h"

#include "core/base/atomic_file.h"
#include "core/source/preview_store.h"

#include <cstring>
#include <fstream>
#include <string>
#include <sys/stat.h>

namespace frenlo {

namespace {

constexpr std::string_view mark = "frenlo peaks 1\n";

/// Another file, or the same changed, has another name.
std::filesystem::path kept_name(const std::filesystem::path& file, const std::filesystem::path& folder)
{
    struct stat info = {};
    if (::stat(file.c_str(), &info) != 0)
        return {};
    return folder / (short_key(file.native() + '\n' + std::to_string(info.st_size) + '\n' +
                               std::to_string(info.st_mtim.tv_sec) + '.' + std::to_string(info.st_mtim.tv_nsec)) +
                     ".peaks");
}

/// Nothing where there is none, or it is no longer whole.
std::optional<Peaks> read_kept(const std::filesystem::path& name)
{
    std::ifstream in(name, std::ios::binary);
    std::string text((std::istreambuf_iterator<char>(in)), {});
    Peaks peaks;
    const std::size_t head = mark.size() + sizeof(peaks.samples);
    if (!text.starts_with(mark) || text.size() < head || (text.size() - head) % 2 != 0)
        return std::nullopt;
    std::memcpy(&peaks.samples, text.data() + mark.size(), sizeof(peaks.samples));
    peaks.pieces.resize((text.size() - head) / 2);
    if (!peaks.pieces.empty())
        std::memcpy(peaks.pieces.data(), text.data() + head, text.size() - head);
    return peaks;
}

void keep(const Peaks& peaks, const std::filesystem::path& name)
{
    AtomicFile file(name);
    std::ofstream out(file.path(), std::ios::binary);
    out.write(mark.data(), std::streamsize(mark.size()));
    out.write(reinterpret_cast<const char*>(&peaks.samples), sizeof(peaks.samples));
    out.write(reinterpret_cast<const char*>(peaks.pieces.data()), std::streamsize(peaks.pieces.size() * 2));
    out.close();
    if (out)
        file.commit();
}

}

Peaks kept_peaks(const std::filesystem::path& file, const std::filesystem::path& folder, const Job& job,
                 const std::function<void(const Peaks&)>& shown)
{
    const std::filesystem::path name = kept_name(file, folder);
    if (!name.empty())
        if (auto kept = read_kept(name))
            return *std::move(kept);
    Peaks peaks = peaks_of(file, job, shown);
    try {
        if (!name.empty())
            keep(peaks, name);
    } catch (const Failure&) { // documented: made again next time
    }
    return peaks;
}

}
