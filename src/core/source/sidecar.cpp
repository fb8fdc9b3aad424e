#include "core/source/sidecar.h"

#include "core/base/atomic_file.h"
#include "core/base/input_file.h"
#include "core/source/metadata.h"

#include <exiv2/exiv2.hpp>

#include <algorithm>
#include <array>

namespace frenlo {

namespace fs = std::filesystem;

namespace {

constexpr std::uintmax_t most_bytes = 16U << 20;

void prepare()
{
    static const bool once = [] {
        prepare_exiv2();
        Exiv2::XmpProperties::registerNs(sidecar_namespace, "frenlo");
        return true;
    }();
    (void)once;
}

std::string text_of(const Exiv2::XmpData& xmp, const char* key)
{
    const auto at = xmp.findKey(Exiv2::XmpKey(key));
    return at == xmp.end() ? std::string() : at->toString();
}

int number_of(const Exiv2::XmpData& xmp, const char* key, int least, int most)
{
    const auto at = xmp.findKey(Exiv2::XmpKey(key));
    if (at == xmp.end())
        return 0;
    const auto n = at->toLong();
    return at->value().ok() ? int(std::clamp<long>(n, least, most)) : 0;
}

/// Nothing where it is no XMP.
std::optional<Exiv2::XmpData> decoded(const fs::path& file)
{
    const auto stamp = stamp_of(file);
    if (!stamp || stamp->bytes > most_bytes)
        return std::nullopt;
    Exiv2::XmpData xmp;
    const std::string packet = read_whole_file(file);
    if (packet.empty() || Exiv2::XmpParser::decode(xmp, packet) != 0)
        return std::nullopt;
    return xmp;
}

Sidecar said_in(const Exiv2::XmpData& xmp)
{
    Sidecar s;
    s.rating = number_of(xmp, "Xmp.xmp.Rating", -1, 5);
    s.label = text_of(xmp, "Xmp.xmp.Label");
    s.hold = text_of(xmp, "Xmp.frenlo.Hold");
    s.aside = text_of(xmp, "Xmp.frenlo.Aside") == "True";
    s.turns = number_of(xmp, "Xmp.frenlo.Turns", 0, 3);
    return s;
}

}

fs::path sidecar_beside(const fs::path& photo)
{
    std::error_code ec;
    for (const char* ending : {".xmp", ".XMP"})
        for (const fs::path& file : {fs::path(photo).replace_extension(ending), fs::path(photo.native() + ending)})
            if (fs::is_regular_file(file, ec))
                return file;
    return {};
}

std::optional<Sidecar> read_sidecar(const fs::path& photo)
{
    const fs::path file = sidecar_beside(photo);
    if (file.empty())
        return std::nullopt;
    prepare();
    try {
        const auto xmp = decoded(file);
        return xmp ? std::optional(said_in(*xmp)) : std::nullopt;
    } catch (const std::exception&) {
        return std::nullopt; // another program's file, of no use here: the photo comes in all the same
    }
}

bool write_sidecar(const fs::path& photo, const Sidecar& sidecar)
{
    prepare();
    const fs::path there = sidecar_beside(photo);
    try {
        Exiv2::XmpData xmp;
        if (!there.empty()) {
            auto known = decoded(there);
            if (!known)
                throw Failure({"the sidecar is no XMP that can be read, and is left as it is", there,
                               "Move it away to have one written"});
            xmp = std::move(*known);
            const Sidecar now = said_in(xmp);
            if (now.hold == sidecar.hold && now.aside == sidecar.aside && now.turns == sidecar.turns)
                return false;
        }
        xmp["Xmp.frenlo.Hold"] = sidecar.hold;
        xmp["Xmp.frenlo.Aside"] = std::string(sidecar.aside ? "True" : "False");
        xmp["Xmp.frenlo.Turns"] = std::to_string(sidecar.turns);
        std::string packet;
        if (Exiv2::XmpParser::encode(packet, xmp, Exiv2::XmpParser::useCompactFormat) != 0)
            throw Failure({"the sidecar cannot be made", photo, ""});
        there.empty() ? write_new_file(fs::path(photo).replace_extension(".xmp"), packet)
                      : write_whole_file(there, packet);
        return true;
    } catch (const Exiv2::AnyError& error) {
        throw Failure({std::string("the sidecar cannot be written (") + error.what() + ")",
                       there.empty() ? photo : there, "Move it away to have one written"});
    }
}

}
