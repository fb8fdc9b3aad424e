#pragma once
#include "core/project/shot_photo.h"

#include <algorithm>
#include <atomic>
#include <cstddef>
#include <functional>
#include <initializer_list>
#include <iterator>
#include <memory>
#include <vector>

namespace frenlo {

/// The photos of a shot, in order. Copies share them: copying a list copies pointers, and an edit of one photo copies
/// that one. What is read is constant; edit(i) is the one way to change a photo.
class PhotoList
{
public:
    using Shared = std::shared_ptr<const ShotPhoto>;

    class const_iterator
    {
    public:
        using iterator_category = std::random_access_iterator_tag;
        using value_type = ShotPhoto;
        using difference_type = std::ptrdiff_t;
        using pointer = const ShotPhoto*;
        using reference = const ShotPhoto&;
        const_iterator() = default;
        explicit const_iterator(std::vector<Shared>::const_iterator at) : at_(at) {}
        reference operator*() const { return **at_; }
        pointer operator->() const { return at_->get(); }
        reference operator[](difference_type n) const { return *at_[n]; }
        const_iterator& operator++() { return ++at_, *this; }
        const_iterator operator++(int) { return const_iterator(at_++); }
        const_iterator& operator--() { return --at_, *this; }
        const_iterator operator--(int) { return const_iterator(at_--); }
        const_iterator& operator+=(difference_type n) { return at_ += n, *this; }
        const_iterator& operator-=(difference_type n) { return at_ -= n, *this; }
        friend const_iterator operator+(const_iterator i, difference_type n) { return i += n; }
        friend const_iterator operator+(difference_type n, const_iterator i) { return i += n; }
        friend const_iterator operator-(const_iterator i, difference_type n) { return i -= n; }
        friend difference_type operator-(const_iterator a, const_iterator b) { return a.at_ - b.at_; }
        auto operator<=>(const const_iterator&) const = default;

    private:
        std::vector<Shared>::const_iterator at_;
    };
    using value_type = ShotPhoto;

    PhotoList() = default;
    PhotoList(std::initializer_list<ShotPhoto> photos)
    {
        for (const ShotPhoto& p : photos)
            push_back(p);
    }

    [[nodiscard]] std::size_t size() const { return photos_.size(); }
    [[nodiscard]] bool empty() const { return photos_.empty(); }
    const ShotPhoto& operator[](std::size_t i) const { return *photos_[i]; }
    /// Throws std::out_of_range.
    [[nodiscard]] const ShotPhoto& at(std::size_t i) const { return *photos_.at(i); }
    [[nodiscard]] const ShotPhoto& front() const { return *photos_.front(); }
    [[nodiscard]] const ShotPhoto& back() const { return *photos_.back(); }
    [[nodiscard]] const_iterator begin() const { return const_iterator(photos_.begin()); }
    [[nodiscard]] const_iterator end() const { return const_iterator(photos_.end()); }
    [[nodiscard]] const Shared& shared(std::size_t i) const { return photos_.at(i); }

    /// The photo to be changed: a copy of its own where others have it, too. Valid until the list changes. Throws
    /// std::out_of_range.
    ShotPhoto& edit(std::size_t i)
    {
        Shared& p = photos_.at(i);
        if (p.use_count() != 1)
            p = std::make_shared<ShotPhoto>(*p);
        std::atomic_thread_fence(std::memory_order_acquire); // after whoever let go of it last
        return const_cast<ShotPhoto&>(*p);                   // all of them are made as ShotPhoto, not const
    }

    /// Each photo as change makes it; those that it leaves as they are stay shared.
    template <class Change>
    void edit_all(Change change)
    {
        for (Shared& p : photos_) {
            ShotPhoto copy = *p;
            change(copy);
            if (!(copy == *p))
                p = std::make_shared<ShotPhoto>(std::move(copy));
        }
    }

    void push_back(ShotPhoto photo) { photos_.push_back(std::make_shared<ShotPhoto>(std::move(photo))); }
    void push_back(Shared photo) { photos_.push_back(std::move(photo)); }
    /// Photos [begin, end) of another list, behind these.
    void append(const PhotoList& other, std::size_t begin, std::size_t end)
    {
        photos_.insert(photos_.end(), other.photos_.begin() + std::ptrdiff_t(begin),
                       other.photos_.begin() + std::ptrdiff_t(end));
    }
    /// Only photos [begin, end) stay.
    void keep(std::size_t begin, std::size_t end)
    {
        photos_.erase(photos_.begin() + std::ptrdiff_t(end), photos_.end());
        photos_.erase(photos_.begin(), photos_.begin() + std::ptrdiff_t(begin));
    }
    void clear() { photos_.clear(); }
    void reserve(std::size_t n) { photos_.reserve(n); }

    /// Same photos in the same order, by value.
    bool operator==(const PhotoList& other) const
    {
        return std::equal(photos_.begin(), photos_.end(), other.photos_.begin(), other.photos_.end(),
                          [](const Shared& a, const Shared& b) { return a == b || *a == *b; });
    }

private:
    std::vector<Shared> photos_;
};

inline std::size_t hash_value(const PhotoList& photos)
{
    std::size_t h = photos.size();
    for (const ShotPhoto& p : photos)
        h = mixed_hash(h, hash_of(p));
    return h;
}

}
