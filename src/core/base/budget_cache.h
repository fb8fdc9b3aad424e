#pragma once
#include <cstddef>
#include <list>
#include <mutex>
#include <optional>
#include <unordered_map>
#include <utility>

namespace frenlo {

/// Keeps values while their costs fit a budget; the least recently used go first. Safe from any thread.
/// A value that alone exceeds the budget is not kept.
template <class Key, class Value, class Hash = std::hash<Key>>
class BudgetCache
{
public:
    explicit BudgetCache(std::size_t budget) : budget_(budget) {}

    std::optional<Value> get(const Key& key)
    {
        const std::lock_guard lock(mutex_);
        const auto found = index_.find(key);
        if (found == index_.end())
            return std::nullopt;
        entries_.splice(entries_.begin(), entries_, found->second);
        return found->second->value;
    }

    [[nodiscard]] bool contains(const Key& key) const
    {
        const std::lock_guard lock(mutex_);
        return index_.contains(key);
    }

    void put(const Key& key, Value value, std::size_t cost)
    {
        const std::lock_guard lock(mutex_);
        remove(key);
        if (cost > budget_)
            return;
        entries_.push_front({key, std::move(value), cost});
        index_[key] = entries_.begin();
        spent_ += cost;
        while (spent_ > budget_)
            remove(Key(entries_.back().key));
    }

    void clear()
    {
        const std::lock_guard lock(mutex_);
        entries_.clear();
        index_.clear();
        spent_ = 0;
    }

    [[nodiscard]] std::size_t spent() const
    {
        const std::lock_guard lock(mutex_);
        return spent_;
    }

private:
    struct Entry
    {
        Key key;
        Value value;
        std::size_t cost;
    };

    void remove(const Key& key)
    {
        const auto found = index_.find(key);
        if (found == index_.end())
            return;
        spent_ -= found->second->cost;
        entries_.erase(found->second);
        index_.erase(found);
    }

    std::size_t budget_;
    std::size_t spent_ = 0;
    std::list<Entry> entries_;
    std::unordered_map<Key, typename std::list<Entry>::iterator, Hash> index_;
    mutable std::mutex mutex_;
};

}
