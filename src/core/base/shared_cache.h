#pragma once
#include <condition_variable>
#include <cstddef>
#include <cstdint>
#include <list>
#include <memory>
#include <mutex>
#include <optional>
#include <typeindex>
#include <unordered_map>
#include <unordered_set>
#include <utility>

namespace frenlo {

/// Who goes when values of one type have their whole share.
enum class FullShare
{
    oldest_go,   ///< the ones that were used longest ago
    new_ones_go, ///< for what is gone through in the same order again and again: some of it at least is found
};

/// What a key of SharedCache needs beside == and hash(): the type of its values, and how much of the budget they may
/// take.
template <class ValueType, int share_in_percent, FullShare when_full = FullShare::oldest_go>
struct CacheKey
{
    using Value = ValueType;
    static constexpr int percent = share_in_percent;
    static constexpr FullShare full = when_full;
};

/// One budget of bytes for all that can be made again: pictures for the screen, decoded photos, frames in float, what
/// moves between them. What was used longest ago goes first, of whatever type. Safe from any thread.
class SharedCache
{
public:
    explicit SharedCache(std::size_t bytes) : budget_(bytes) {}
    SharedCache(const SharedCache&) = delete;
    SharedCache& operator=(const SharedCache&) = delete;

    [[nodiscard]] std::size_t budget() const { return budget_; }

    template <class Key>
    [[nodiscard]] std::optional<typename Key::Value> get(const Key& key)
    {
        const std::lock_guard lock(mutex_);
        Shelf<Key>& shelf = shelf_of<Key>();
        const auto found = shelf.index.find(key);
        if (found == shelf.index.end())
            return std::nullopt;
        shelf.entries.splice(shelf.entries.begin(), shelf.entries, found->second);
        found->second->used = ++clock_;
        return found->second->value;
    }

    template <class Key>
    [[nodiscard]] bool contains(const Key& key)
    {
        const std::lock_guard lock(mutex_);
        return shelf_of<Key>().index.contains(key);
    }

    /// bytes: what keeping it costs. A value that alone exceeds its share is not kept.
    template <class Key>
    void put(const Key& key, typename Key::Value value, std::size_t bytes)
    {
        const std::lock_guard lock(mutex_);
        put_locked(key, std::move(value), bytes);
    }

    /// What is kept, or else make(), which gives a value and its bytes; who asks for the same meanwhile waits for it.
    /// Of no bytes: it is not kept. What make() throws, who called it gets; those who wait try themselves.
    template <class Key, class Make>
    typename Key::Value get_or_make(const Key& key, const Make& make)
    {
        {
            std::unique_lock lock(mutex_);
            Shelf<Key>& shelf = shelf_of<Key>();
            made_.wait(lock, [&] { return !shelf.making.contains(key); });
            if (const auto found = shelf.index.find(key); found != shelf.index.end()) {
                shelf.entries.splice(shelf.entries.begin(), shelf.entries, found->second);
                found->second->used = ++clock_;
                return found->second->value;
            }
            shelf.making.insert(key);
        }
        const Making<Key> making(*this, key);
        auto [value, bytes] = make();
        if (bytes > 0)
            put(key, value, bytes);
        return std::move(value);
    }

    /// All values of this type.
    template <class Key>
    void drop()
    {
        const std::lock_guard lock(mutex_);
        Shelf<Key>& shelf = shelf_of<Key>();
        while (!shelf.entries.empty())
            spent_ -= shelf.drop_oldest();
    }

    [[nodiscard]] std::size_t spent() const
    {
        const std::lock_guard lock(mutex_);
        return spent_;
    }

private:
    struct AnyShelf
    {
        virtual ~AnyShelf() = default;
        /// When the one was used that was used longest ago; none where it is empty.
        [[nodiscard]] virtual std::optional<std::uint64_t> oldest() const = 0;
        /// Its bytes.
        virtual std::size_t drop_oldest() = 0;
    };

    template <class Key>
    struct Hash
    {
        std::size_t operator()(const Key& key) const { return key.hash(); }
    };

    template <class Key>
    struct Shelf final : AnyShelf
    {
        struct Entry
        {
            Key key;
            typename Key::Value value;
            std::size_t bytes;
            std::uint64_t used;
        };
        std::list<Entry> entries; ///< used last: in front
        std::unordered_map<Key, typename std::list<Entry>::iterator, Hash<Key>> index;
        std::unordered_set<Key, Hash<Key>> making;
        std::size_t spent = 0;

        [[nodiscard]] std::optional<std::uint64_t> oldest() const override
        {
            return entries.empty() ? std::nullopt : std::optional(entries.back().used);
        }
        std::size_t drop_oldest() override { return remove(std::prev(entries.end())); }
        std::size_t remove(typename std::list<Entry>::iterator entry)
        {
            const std::size_t bytes = entry->bytes;
            spent -= bytes;
            index.erase(entry->key);
            entries.erase(entry);
            return bytes;
        }
    };

    /// Whatever happens, who waits goes on.
    template <class Key>
    class Making
    {
    public:
        Making(SharedCache& cache, const Key& key) : cache_(cache), key_(key) {}
        Making(const Making&) = delete;
        Making& operator=(const Making&) = delete;
        ~Making()
        {
            {
                const std::lock_guard lock(cache_.mutex_);
                cache_.shelf_of<Key>().making.erase(key_);
            }
            cache_.made_.notify_all();
        }

    private:
        SharedCache& cache_;
        const Key& key_;
    };

    template <class Key>
    Shelf<Key>& shelf_of()
    {
        std::unique_ptr<AnyShelf>& shelf = shelves_[std::type_index(typeid(Key))];
        if (!shelf)
            shelf = std::make_unique<Shelf<Key>>();
        return static_cast<Shelf<Key>&>(*shelf);
    }

    template <class Key>
    void put_locked(const Key& key, typename Key::Value value, std::size_t bytes)
    {
        Shelf<Key>& shelf = shelf_of<Key>();
        if (const auto found = shelf.index.find(key); found != shelf.index.end())
            spent_ -= shelf.remove(found->second);
        const std::size_t share = budget_ / 100 * Key::percent;
        if (bytes > share || (Key::full == FullShare::new_ones_go && shelf.spent + bytes > share))
            return;
        while (shelf.spent + bytes > share)
            spent_ -= shelf.drop_oldest();
        while (spent_ + bytes > budget_)
            drop_oldest();
        shelf.entries.push_front({key, std::move(value), bytes, ++clock_});
        shelf.index[key] = shelf.entries.begin();
        shelf.spent += bytes;
        spent_ += bytes;
    }

    void drop_oldest()
    {
        AnyShelf* oldest = nullptr;
        std::uint64_t when = UINT64_MAX;
        for (const auto& [type, shelf] : shelves_)
            if (const auto used = shelf->oldest(); used && *used < when) {
                oldest = shelf.get();
                when = *used;
            }
        if (oldest)
            spent_ -= oldest->drop_oldest();
    }

    const std::size_t budget_;
    std::size_t spent_ = 0;
    std::uint64_t clock_ = 0;
    std::unordered_map<std::type_index, std::unique_ptr<AnyShelf>> shelves_;
    std::condition_variable made_;
    mutable std::mutex mutex_;
};

/// An eighth of the machine's memory, from a quarter of a gigabyte to one: so much may be kept.
std::size_t usual_cache_bytes();

}
