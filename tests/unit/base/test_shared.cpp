// SPDX-License-Identifier: GPL-3.0-or-later
#include <numeric>
#include <thread>

#include "base/shared.h"
#include "support/qt_test.h"
#include "support/test_list.h"

using namespace rigmatch;

namespace {

/// Counts its copies.
struct Counted {
    int value = 0;
    static inline std::atomic<int> copies{0};

    Counted() = default;
    Counted(int v) : value(v) {}  // NOLINT
    Counted(const Counted& other) : value(other.value) { ++copies; }
    Counted(Counted&&) = default;
    Counted& operator=(const Counted&) = default;
    Counted& operator=(Counted&&) = default;
    bool operator==(const Counted& other) const { return value == other.value; }
};

}  // namespace

class TestShared : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void copiesShareUntilOneChanges() {
        base::Shared<Counted> first(Counted(1));
        base::Shared<Counted> second = first;
        Counted::copies = 0;
        QVERIFY(second.isSame(first));
        QCOMPARE(std::as_const(second)->value, 1);
        QCOMPARE(int(Counted::copies), 0);
        second->value = 2;
        QCOMPARE(int(Counted::copies), 1);
        QCOMPARE(std::as_const(first)->value, 1);
        second->value = 3;
        QVERIFY2(Counted::copies == 1, "what is its own is changed in place");
        QVERIFY(!(first == second));
        second->value = 1;
        QVERIFY2(first == second && !first.isSame(second), "equal, not the same");
        second.reset();
        QVERIFY(!second && first);
    }
    void listsCopyOnlyWhatIsChanged() {
        base::SharedList<Counted> list;
        for (int i = 0; i < 100; ++i) list.push_back(Counted(i));
        base::SharedList<Counted> other = list;
        Counted::copies = 0;
        int sum = 0;
        for (const Counted& each : std::as_const(other)) sum += each.value;
        QCOMPARE(sum, 4950);
        QVERIFY(list == other);
        QCOMPARE(int(Counted::copies), 0);
        other[7].value = -1;
        QCOMPARE(int(Counted::copies), 1);
        QCOMPARE(std::as_const(list)[7].value, 7);
        QVERIFY(!(list == other));
        QVERIFY(list.share(8) == other.share(8));
        QVERIFY(list.share(7) != other.share(7));
    }
    void elementsMoveComeAndGo() {
        base::SharedList<int> list{1, 2, 3, 4};
        list.move(0, 2);
        QVERIFY((list == base::SharedList<int>{2, 3, 1, 4}));
        list.erase(std::as_const(list).begin() + 1);
        list.insert(std::as_const(list).end(), 9);
        list.removeIf([](int value) { return value == 4; });
        QVERIFY((list == base::SharedList<int>{2, 1, 9}));
        QCOMPARE(std::accumulate(list.begin(), list.end(), 0), 12);
        QVERIFY(std::find(list.begin(), list.end(), 9) == list.end() - 1);
        list.back() = 5;
        QCOMPARE(list.back(), 5);
        list.clear();
        QVERIFY(list.empty());
    }
    /// Another thread reads its copy while this one changes its own, over and over.
    void anotherThreadReadsItsCopyInPeace() {
        base::SharedList<std::vector<int>> list;
        for (int i = 0; i < 8; ++i) list.push_back(std::vector<int>(64, 0));
        for (int round = 1; round < 200; ++round) {
            std::thread reader([copy = list, round] {
                for (const auto& row : copy) {
                    for (const int value : row)
                        if (value != round - 1) qFatal("a shared value was changed");
                }
            });
            for (auto& row : list) std::fill(row.begin(), row.end(), round);
            reader.join();
        }
    }
};

RIG_TEST(TestShared);
#include "test_shared.moc"
