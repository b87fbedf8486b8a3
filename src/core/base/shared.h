// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <atomic>
#include <compare>
#include <cstddef>
#include <initializer_list>
#include <iterator>
#include <memory>
#include <optional>
#include <utility>
#include <vector>

namespace rigmatch::base {

/// True where nobody else holds the value, so that it may be changed in place. Values are handed to
/// other threads by copying the holder; what such a thread read of it before it let go happened
/// before a change here.
template <class T>
[[nodiscard]] bool isSole(const std::shared_ptr<T>& value) {
    if (value.use_count() != 1) return false;
    std::atomic_thread_fence(std::memory_order_acquire);
    return true;
}

/// An optional value that copies share until one of them changes it. Reading through a constant
/// holder never copies; every access through one that is not constant makes the value its own.
template <class T>
class Shared {
public:
    Shared() = default;
    Shared(std::nullopt_t) {}                                            // NOLINT: as std::optional
    Shared(T value) : m_value(std::make_shared<T>(std::move(value))) {}  // NOLINT: as std::optional

    [[nodiscard]] bool has_value() const { return m_value != nullptr; }
    [[nodiscard]] explicit operator bool() const { return has_value(); }
    [[nodiscard]] const T& operator*() const { return *m_value; }
    [[nodiscard]] const T* operator->() const { return m_value.get(); }
    [[nodiscard]] T& operator*() { return own(); }
    [[nodiscard]] T* operator->() { return &own(); }
    /// The value, or nullptr; never copies.
    [[nodiscard]] const T* get() const { return m_value.get(); }

    T& emplace() {
        m_value = std::make_shared<T>();
        return *m_value;
    }
    void reset() { m_value.reset(); }

    /// True where both hold the very same value, not only an equal one.
    [[nodiscard]] bool isSame(const Shared& other) const { return m_value == other.m_value; }
    bool operator==(const Shared& other) const {
        return m_value == other.m_value ||
               (m_value != nullptr && other.m_value != nullptr && *m_value == *other.m_value);
    }

private:
    T& own() {
        if (!isSole(m_value)) m_value = std::make_shared<T>(*m_value);
        return *m_value;
    }

    std::shared_ptr<T> m_value;
};

/// A list whose copies share their elements: a copy costs a pointer per element, a change only the
/// element that is changed. Iterating over a constant list never copies an element; access to an
/// element through a list that is not constant makes that element its own.
template <class T>
class SharedList {
    using Node = std::shared_ptr<T>;

    template <bool kIsConst>
    class Iterator {
    public:
        using iterator_category = std::random_access_iterator_tag;
        using value_type = T;
        using difference_type = std::ptrdiff_t;
        using reference = std::conditional_t<kIsConst, const T&, T&>;
        using pointer = std::conditional_t<kIsConst, const T*, T*>;
        using NodePointer = std::conditional_t<kIsConst, const Node*, Node*>;

        Iterator() = default;
        explicit Iterator(NodePointer at) : m_at(at) {}
        /// A changing iterator serves as a constant one.
        operator Iterator<true>() const { return Iterator<true>(m_at); }  // NOLINT

        reference operator*() const {
            if constexpr (kIsConst)
                return **m_at;
            else
                return own(*m_at);
        }
        pointer operator->() const { return &**this; }
        reference operator[](difference_type n) const { return *(*this + n); }
        Iterator& operator++() { return ++m_at, *this; }
        Iterator& operator--() { return --m_at, *this; }
        Iterator operator++(int) { return Iterator(m_at++); }
        Iterator operator--(int) { return Iterator(m_at--); }
        Iterator& operator+=(difference_type n) { return m_at += n, *this; }
        Iterator& operator-=(difference_type n) { return m_at -= n, *this; }
        friend Iterator operator+(Iterator it, difference_type n) { return it += n; }
        friend Iterator operator+(difference_type n, Iterator it) { return it += n; }
        friend Iterator operator-(Iterator it, difference_type n) { return it -= n; }
        friend difference_type operator-(Iterator a, Iterator b) { return a.m_at - b.m_at; }
        friend bool operator==(Iterator a, Iterator b) { return a.m_at == b.m_at; }
        friend auto operator<=>(Iterator a, Iterator b) { return a.m_at <=> b.m_at; }

    private:
        NodePointer m_at = nullptr;
    };

public:
    using value_type = T;
    using iterator = Iterator<false>;
    using const_iterator = Iterator<true>;

    SharedList() = default;
    SharedList(std::initializer_list<T> values) {
        for (const T& value : values) push_back(value);
    }
    SharedList(std::vector<T> values) {  // NOLINT: as a list of values
        for (T& value : values) push_back(std::move(value));
    }

    [[nodiscard]] std::size_t size() const { return m_nodes.size(); }
    [[nodiscard]] bool empty() const { return m_nodes.empty(); }
    [[nodiscard]] const T& operator[](std::size_t i) const { return *m_nodes[i]; }
    [[nodiscard]] T& operator[](std::size_t i) { return own(m_nodes[i]); }
    [[nodiscard]] const T& front() const { return *m_nodes.front(); }
    [[nodiscard]] T& front() { return own(m_nodes.front()); }
    [[nodiscard]] const T& back() const { return *m_nodes.back(); }
    [[nodiscard]] T& back() { return own(m_nodes.back()); }
    [[nodiscard]] const_iterator begin() const { return const_iterator(m_nodes.data()); }
    [[nodiscard]] const_iterator end() const {
        return const_iterator(m_nodes.data() + m_nodes.size());
    }
    [[nodiscard]] iterator begin() { return iterator(m_nodes.data()); }
    [[nodiscard]] iterator end() { return iterator(m_nodes.data() + m_nodes.size()); }
    /// The element as it is shared: equal pointers are equal values.
    [[nodiscard]] std::shared_ptr<const T> share(std::size_t i) const { return m_nodes[i]; }

    void push_back(T value) { m_nodes.push_back(std::make_shared<T>(std::move(value))); }
    T& emplace_back() {
        m_nodes.push_back(std::make_shared<T>());
        return *m_nodes.back();
    }
    void pop_back() { m_nodes.pop_back(); }
    void clear() { m_nodes.clear(); }
    void erase(const_iterator at) {
        m_nodes.erase(m_nodes.begin() + (at - std::as_const(*this).begin()));
    }
    void insert(const_iterator at, T value) {
        m_nodes.insert(m_nodes.begin() + (at - std::as_const(*this).begin()),
                       std::make_shared<T>(std::move(value)));
    }
    /// Takes an element from one place to another; the others close up.
    void move(std::size_t from, std::size_t to) {
        Node node = std::move(m_nodes[from]);
        m_nodes.erase(m_nodes.begin() + static_cast<std::ptrdiff_t>(from));
        m_nodes.insert(m_nodes.begin() + static_cast<std::ptrdiff_t>(to), std::move(node));
    }
    /// Takes away the elements of which `is` is true.
    template <class Predicate>
    void removeIf(Predicate is) {
        std::erase_if(m_nodes, [&](const Node& node) { return is(std::as_const(*node)); });
    }

    bool operator==(const SharedList& other) const {
        if (m_nodes.size() != other.m_nodes.size()) return false;
        for (std::size_t i = 0; i < m_nodes.size(); ++i) {
            if (m_nodes[i] != other.m_nodes[i] && !(*m_nodes[i] == *other.m_nodes[i])) return false;
        }
        return true;
    }

private:
    static T& own(Node& node) {
        if (!isSole(node)) node = std::make_shared<T>(*node);
        return *node;
    }

    std::vector<Node> m_nodes;
};

}  // namespace rigmatch::base
