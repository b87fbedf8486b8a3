// SPDX-License-Identifier: GPL-3.0-or-later
// Codes with arguments become words in one place.
#include <cctype>
#include <set>

#include "support/qt_test.h"
#include "support/test_list.h"
#include "words/english.h"

using namespace rigmatch;
using base::Number;
using base::say;
using words::inEnglish;

class TestEnglish : public QObject {
    Q_OBJECT
private Q_SLOTS:
    void numbersAreSaidAsTheyAreMeant() {
        const auto said = [](const Number& number) {
            return inEnglish(say("length.metres", {{"metres", number}}));
        };
        QCOMPARE(said({2.314, 2}), std::string("2.31 m"));
        QCOMPARE(said({-0.5, 1}), std::string("\u22120.5 m"));
        QCOMPARE(said({0.5, 1, true}), std::string("+0.5 m"));
        QCOMPARE(said({1e6}), std::string("1000000 m"));
    }
    void textsStandInTexts() {
        const base::Text inner = say("length.feet", {{"feet", Number{7.6, 1}}});
        const base::Text whole =
            say("room.ceiling", {{"height", inner}}) + say("common.semicolon") + base::asIs("{x}");
        QCOMPARE(inEnglish(whole), std::string("Ceiling at 7.6 ft.; {x}"));
        QVERIFY(whole.has("length.feet") && whole.has("asIs") && !whole.has("length.metres"));
        QVERIFY(inEnglish(base::Text{}).empty());
        QCOMPARE(inEnglish(base::joined({inner, inner}, say("common.comma"))),
                 std::string("7.6 ft, 7.6 ft"));
    }
    /// A text of a later program is shown as far as it goes; nothing is lost silently.
    void whatHasNoWordsIsShown() {
        QCOMPARE(inEnglish(say("of.alaterProgram")), std::string("[of.alaterProgram]"));
        QCOMPARE(inEnglish(say("length.metres")), std::string("{metres} m"));
    }
    void everyCodeHasOnePhrase() {
        std::set<std::string> codes;
        for (const words::Phrase& phrase : words::englishPhrases()) {
            QVERIFY2(codes.insert(phrase.code).second, phrase.code);
            const std::string words = phrase.words;
            QCOMPARE(std::count(words.begin(), words.end(), '{'),
                     std::count(words.begin(), words.end(), '}'));
            // Sentences carry no slips of joining.
            QVERIFY2(words.find("  ") == std::string::npos, phrase.code);
            // A full stop after a space, unless it begins the name of an ending (".cube").
            for (std::size_t at = words.find(" ."); at != std::string::npos;
                 at = words.find(" .", at + 1))
                QVERIFY2(at + 2 < words.size() && std::islower(words[at + 2]) != 0, phrase.code);
        }
        QVERIFY(codes.size() > 400);
    }
};

RIG_TEST(TestEnglish);
#include "test_english.moc"
