// What people type: holds, rates, fractions. What is read must be written as text that reads the same.
#include "core/source/names.h"
#include "core/source/photo_file.h"
#include "core/time/hold.h"

#include <cstdint>
#include <cstdlib>

using namespace frenlo;

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size)
{
    const std::string_view text(reinterpret_cast<const char*>(data), size);
    if (const auto hold = parse_hold(text); hold && parse_hold(hold_text(*hold)) != hold)
        std::abort();
    if (const auto rate = parse_rate(text); rate && parse_rate(rate->text()) != rate)
        std::abort();
    if (const auto f = parse_fraction(text); f && parse_fraction(f->text()) != f)
        std::abort();
    if (const auto t = parse_capture_time(text); t && parse_capture_time(t->text()) != t)
        std::abort();
    const std::string_view half = text.substr(0, size / 2), rest = text.substr(size / 2);
    if (natural_less(half, rest) && natural_less(rest, half))
        std::abort();
    (void)numbered(std::string(text));
    return 0;
}
