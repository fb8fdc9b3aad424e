#pragma once
#include "core/base/fields.h"

#include <algorithm>
#include <filesystem>
#include <memory>
#include <string_view>
#include <utility>
#include <vector>

namespace frenlo {

/// What a list of values of many types must know of each.
struct ValueType
{
    const char* key;
    bool (*same)(const void*, const void*);
    std::size_t (*hash)(const void*);
    std::size_t (*bytes)(const void*); ///< that it takes, about
    /// A file that it names, where a file_of(T&) says which of its fields that is; null: none.
    const std::filesystem::path& (*file)(const void*);
    std::shared_ptr<const void> (*with_file)(const void*, const std::filesystem::path&); ///< another in its place
};

template <class T>
concept NamesFile = requires(T& t)
{
    file_of(t);
};

template <class T>
constexpr auto file_getter() -> decltype(ValueType::file)
{
    if constexpr (NamesFile<T>)
        return [](const void* v) -> const std::filesystem::path& { return file_of(*static_cast<const T*>(v)); };
    else
        return nullptr;
}
template <class T>
constexpr auto file_setter() -> decltype(ValueType::with_file)
{
    if constexpr (NamesFile<T>)
        return [](const void* v, const std::filesystem::path& file) -> std::shared_ptr<const void> {
            auto changed = std::make_shared<T>(*static_cast<const T*>(v));
            file_of(*changed) = file;
            return changed;
        };
    else
        return nullptr;
}

template <class T>
constexpr ValueType value_type(const char* key)
{
    return {key,
            [](const void* a, const void* b) { return *static_cast<const T*>(a) == *static_cast<const T*>(b); },
            [](const void* v) { return hash_of(*static_cast<const T*>(v)); },
            [](const void* v) {
                if constexpr (requires(const T& t) { heap_of(t); })
                    return sizeof(T) + heap_of(*static_cast<const T*>(v));
                else
                    return sizeof(T);
            },
            file_getter<T>(),
            file_setter<T>()};
}

/// Values of different types, one of each at most, whatever they are: who holds them need not know them. Copies share
/// them. Of says which types there are: Of::type<T> is T's ValueType, or something derived from it (Of::Type), the same
/// object everywhere.
template <class Of>
class TypedValues
{
public:
    using Type = typename Of::Type;
    struct Entry
    {
        const Type* type;
        std::shared_ptr<const void> value;
    };

    /// Null where there is none; stays until the values change.
    template <class T>
    [[nodiscard]] const T* find() const
    {
        const auto at = place(&Of::template type<T>);
        return at == entries_.end() ? nullptr : static_cast<const T*>(at->value.get());
    }
    template <class T>
    [[nodiscard]] bool has() const
    {
        return find<T>() != nullptr;
    }
    /// The value, or what it is where nothing was said.
    template <class T>
    [[nodiscard]] T get() const
    {
        const T* value = find<T>();
        return value ? *value : T();
    }
    template <class T>
    void set(T value)
    {
        put({&Of::template type<T>, std::make_shared<const T>(std::move(value))});
    }
    /// To change it; of those who share it, only this one changes. A new one where there was none.
    template <class T>
    T& edit()
    {
        auto own = std::make_shared<T>(get<T>());
        T& value = *own;
        put({&Of::template type<T>, std::move(own)});
        return value;
    }
    template <class T>
    void drop()
    {
        if (const auto at = place(&Of::template type<T>); at != entries_.end())
            entries_.erase(at);
    }
    /// Whether both share the same one, or have none.
    template <class T>
    [[nodiscard]] bool shares(const TypedValues& other) const
    {
        return find<T>() == other.template find<T>();
    }

    /// In the order of their keys.
    [[nodiscard]] const std::vector<Entry>& entries() const { return entries_; }
    void put(Entry entry)
    {
        const auto at = std::lower_bound(entries_.begin(), entries_.end(), entry, before);
        if (at != entries_.end() && at->type == entry.type)
            *at = std::move(entry);
        else
            entries_.insert(at, std::move(entry));
    }

    bool operator==(const TypedValues& other) const
    {
        return std::equal(entries_.begin(), entries_.end(), other.entries_.begin(), other.entries_.end(),
                          [](const Entry& a, const Entry& b) {
                              return a.type == b.type &&
                                     (a.value == b.value || a.type->same(a.value.get(), b.value.get()));
                          });
    }
    friend std::size_t hash_value(const TypedValues& values)
    {
        std::size_t h = values.entries_.size();
        for (const Entry& e : values.entries_)
            h = mixed_hash(mixed_hash(h, std::hash<std::string_view>{}(e.type->key)), e.type->hash(e.value.get()));
        return h;
    }

private:
    static bool before(const Entry& a, const Entry& b) { return Of::before(*a.type, *b.type); }
    [[nodiscard]] auto place(const Type* type) const
    {
        return std::find_if(entries_.begin(), entries_.end(), [&](const Entry& e) { return e.type == type; });
    }

    std::vector<Entry> entries_;
};

}
