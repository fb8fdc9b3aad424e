#pragma once
// A field is written once: its name, what it says, its unit and its range stand in one table beside the struct. Reading
// and writing (field_json.h), the schema, equality across shared parts, hashes and the test of all fields come from it.
#include <array>
#include <cstddef>
#include <cstdint>
#include <functional>
#include <limits>
#include <memory>
#include <optional>
#include <string_view>
#include <type_traits>
#include <utility>
#include <variant>
#include <vector>

namespace frenlo {

/// What a number may be, ends included; of a list, each of its numbers, and how many there are where that is fixed.
struct Limits
{
    double low = -std::numeric_limits<double>::max();
    double high = std::numeric_limits<double>::max();
    std::size_t count = 0; ///< of a list; 0: any
};

template <class Struct, class Member>
struct Field
{
    using MemberType = Member;
    const char* name; ///< in files
    Member Struct::*member;
    const char* says; ///< with its unit, for the schema
    Limits range;
    bool required; ///< a file without it is damaged; else it has its default
};

template <class Struct, class Member>
constexpr Field<Struct, Member> field(const char* name, Member Struct::*member, const char* says, Limits range = {})
{
    return {name, member, says, range, false};
}

template <class Struct, class Member>
constexpr Field<Struct, Member> required(const char* name, Member Struct::*member, const char* says, Limits range = {})
{
    return {name, member, says, range, true};
}

/// Fields of different kinds, one after the other. Not a std::tuple, whose checks of what may be made of what took a
/// fifth of the time of compiling.
template <std::size_t I, class F>
struct TableEntry
{
    F field;
};
template <class Places, class... F>
struct TableEntries;
template <std::size_t... I, class... F>
struct TableEntries<std::index_sequence<I...>, F...> : TableEntry<I, F>...
{
    static constexpr std::size_t size = sizeof...(F);
    constexpr explicit TableEntries(F... fields) : TableEntry<I, F>{fields}... {}
    /// use(field, field, …)
    template <class Use>
    constexpr decltype(auto) apply(Use&& use) const
    {
        return use(static_cast<const TableEntry<I, F>&>(*this).field...);
    }
};
template <class... F>
struct FieldTable : TableEntries<std::index_sequence_for<F...>, F...>
{
    constexpr FieldTable(F... fields) : TableEntries<std::index_sequence_for<F...>, F...>(fields...) {}
};

/// Specialised beside a struct: static constexpr FieldTable table{field(…), …}, all of its members.
template <class T>
struct Fields;

template <class T>
concept HasFields = requires
{
    Fields<T>::table;
};

/// Specialised beside an enum: static constexpr std::array<std::string_view, N> words, in the order of its values from
/// 0.
template <class E>
struct Words;

template <class E>
concept HasWords = requires
{
    Words<E>::words;
};

template <HasWords E>
constexpr std::string_view word_of(E e)
{
    return Words<E>::words.at(std::size_t(e));
}

template <HasWords E>
constexpr std::optional<E> from_word(std::string_view word)
{
    for (std::size_t i = 0; i < Words<E>::words.size(); ++i)
        if (Words<E>::words[i] == word)
            return E(i);
    return std::nullopt;
}

/// Does not compile where the table has more or fewer fields than the struct: nothing is forgotten there.
// clang-format off
template <HasFields T>
constexpr bool all_fields(const T& value)
{
    constexpr std::size_t count = std::remove_cvref_t<decltype(Fields<T>::table)>::size;
    if constexpr (count == 1) { [[maybe_unused]] const auto& [a1] = value; }
    else if constexpr (count == 2) { [[maybe_unused]] const auto& [a1, a2] = value; }
    else if constexpr (count == 3) { [[maybe_unused]] const auto& [a1, a2, a3] = value; }
    else if constexpr (count == 4) { [[maybe_unused]] const auto& [a1, a2, a3, a4] = value; }
    else if constexpr (count == 5) { [[maybe_unused]] const auto& [a1, a2, a3, a4, a5] = value; }
    else if constexpr (count == 6) { [[maybe_unused]] const auto& [a1, a2, a3, a4, a5, a6] = value; }
    else if constexpr (count == 7) { [[maybe_unused]] const auto& [a1, a2, a3, a4, a5, a6, a7] = value; }
    else if constexpr (count == 8) { [[maybe_unused]] const auto& [a1, a2, a3, a4, a5, a6, a7, a8] = value; }
    else if constexpr (count == 9) { [[maybe_unused]] const auto& [a1, a2, a3, a4, a5, a6, a7, a8, a9] = value; }
    else if constexpr (count == 10) { [[maybe_unused]] const auto& [a1, a2, a3, a4, a5, a6, a7, a8, a9, a10] = value; }
    else if constexpr (count == 11) { [[maybe_unused]] const auto& [a1, a2, a3, a4, a5, a6, a7, a8, a9, a10, a11] = value; }
    else if constexpr (count == 12) { [[maybe_unused]] const auto& [a1, a2, a3, a4, a5, a6, a7, a8, a9, a10, a11, a12] = value; }
    else if constexpr (count == 13) { [[maybe_unused]] const auto& [a1, a2, a3, a4, a5, a6, a7, a8, a9, a10, a11, a12, a13] = value; }
    else if constexpr (count == 14) { [[maybe_unused]] const auto& [a1, a2, a3, a4, a5, a6, a7, a8, a9, a10, a11, a12, a13, a14] = value; }
    else if constexpr (count == 15) { [[maybe_unused]] const auto& [a1, a2, a3, a4, a5, a6, a7, a8, a9, a10, a11, a12, a13, a14, a15] = value; }
    else if constexpr (count == 16) { [[maybe_unused]] const auto& [a1, a2, a3, a4, a5, a6, a7, a8, a9, a10, a11, a12, a13, a14, a15, a16] = value; }
    else if constexpr (count == 17) { [[maybe_unused]] const auto& [a1, a2, a3, a4, a5, a6, a7, a8, a9, a10, a11, a12, a13, a14, a15, a16, a17] = value; }
    else if constexpr (count == 18) { [[maybe_unused]] const auto& [a1, a2, a3, a4, a5, a6, a7, a8, a9, a10, a11, a12, a13, a14, a15, a16, a17, a18] = value; }
    else if constexpr (count == 19) { [[maybe_unused]] const auto& [a1, a2, a3, a4, a5, a6, a7, a8, a9, a10, a11, a12, a13, a14, a15, a16, a17, a18, a19] = value; }
    else if constexpr (count == 20) { [[maybe_unused]] const auto& [a1, a2, a3, a4, a5, a6, a7, a8, a9, a10, a11, a12, a13, a14, a15, a16, a17, a18, a19, a20] = value; }
    else if constexpr (count == 21) { [[maybe_unused]] const auto& [a1, a2, a3, a4, a5, a6, a7, a8, a9, a10, a11, a12, a13, a14, a15, a16, a17, a18, a19, a20, a21] = value; }
    else if constexpr (count == 22) { [[maybe_unused]] const auto& [a1, a2, a3, a4, a5, a6, a7, a8, a9, a10, a11, a12, a13, a14, a15, a16, a17, a18, a19, a20, a21, a22] = value; }
    else static_assert(count == 0, "a struct of so many fields is two");
    return true;
}
// clang-format on

template <HasFields T, class Use>
constexpr void for_each_field(Use&& use)
{
    Fields<T>::table.apply([&](const auto&... f) { (use(f), ...); });
}

/// By value, through pointers to shared parts.
template <class T>
bool same_value(const T& a, const T& b)
{
    return a == b;
}
template <class T>
bool same_value(const std::shared_ptr<const T>& a, const std::shared_ptr<const T>& b)
{
    return a == b || (a && b && *a == *b);
}
template <class T>
bool same_value(const std::vector<std::shared_ptr<const T>>& a, const std::vector<std::shared_ptr<const T>>& b)
{
    if (a.size() != b.size())
        return false;
    for (std::size_t i = 0; i < a.size(); ++i)
        if (!same_value(a[i], b[i]))
            return false;
    return true;
}
template <class... T>
bool same_value(const std::variant<T...>& a, const std::variant<T...>& b)
{
    return a.index() == b.index() &&
           std::visit([&](const auto& v) { return same_value(v, std::get<std::decay_t<decltype(v)>>(b)); }, a);
}
template <HasFields T>
bool same_fields(const T& a, const T& b)
{
    return Fields<T>::table.apply([&](const auto&... f) { return (same_value(a.*f.member, b.*f.member) && ...); });
}

inline std::size_t mixed_hash(std::size_t a, std::size_t b)
{
    return (a ^ (b + 0x9e3779b97f4a7c15ULL + (a << 6) + (a >> 2))) *
           0xff51afd7ed558ccdULL; // MurmurHash3's mixing constant
}

/// Specialised for types of others that have no hash of their own.
template <class T>
struct HashOf;

/// Equal values have equal hashes; every field counts. Types that are neither numbers, texts, lists nor structs with
/// fields have a hash_value beside them, or a HashOf.
template <class T>
std::size_t hash_of(const T& value)
{
    if constexpr (HasFields<T>) {
        std::size_t h = 17;
        for_each_field<T>([&](const auto& f) { h = mixed_hash(h, hash_of(value.*f.member)); });
        return h;
    } else if constexpr (std::is_enum_v<T>) {
        return std::size_t(value);
    } else if constexpr (std::is_arithmetic_v<T>) {
        return std::hash<T>{}(value == 0 ? T(0) : value); // -0.0 equals 0.0
    } else if constexpr (requires { HashOf<T>::of(value); }) {
        return HashOf<T>::of(value);
    } else if constexpr (requires { hash_value(value); }) {
        return hash_value(value);
    } else if constexpr (requires { value.has_value(); }) {
        return value ? mixed_hash(1, hash_of(*value)) : 0;
    } else if constexpr (requires { value.valueless_by_exception(); }) {
        return mixed_hash(value.index(), std::visit([](const auto& v) { return hash_of(v); }, value));
    } else if constexpr (requires { value.get() == nullptr; }) {
        return value ? hash_of(*value) : 0;
    } else if constexpr (requires { std::hash<T>{}(value); }) {
        return std::hash<T>{}(value);
    } else {
        std::size_t h = 31;
        for (const auto& v : value)
            h = mixed_hash(h, hash_of(v));
        return h;
    }
}

}
