// SPDX-License-Identifier: GPL-3.0-or-later
#include <QTemporaryDir>

#include "media/read_ahead.h"
#include "support/media_files.h"
#include "support/qt_test.h"
#include "support/test_list.h"

using namespace rigmatch;

class TestReadAhead : public QObject {
    Q_OBJECT
    QTemporaryDir m_folder;
    QString m_clip;

    media::MediaReader opened() const { return *media::MediaReader::open(m_clip.toStdString()); }

private Q_SLOTS:
    void initTestCase() {
        m_clip = m_folder.filePath("clip.mov");
        QVERIFY(support::runFfmpeg({"-f", "lavfi", "-i", "testsrc2=s=160x90:r=25:d=1", m_clip}));
    }
    void framesComeInTheirOrder_data() {
        QTest::addColumn<int>("ahead");
        QTest::newRow("one ahead") << 1;
        QTest::newRow("four ahead") << 4;
        QTest::newRow("more than there are") << 100;
        QTest::newRow("none asked for") << 0;
    }
    void framesComeInTheirOrder() {
        QFETCH(int, ahead);
        media::MediaReader plain = opened();
        media::MediaReader reader = opened();
        media::ReadAhead frames(reader, static_cast<std::size_t>(ahead));
        for (int count = 0;; ++count) {
            const auto expected = plain.next();
            const auto frame = frames.next();
            QVERIFY(expected.has_value() && frame.has_value());
            QCOMPARE(frame->has_value(), expected->has_value());
            if (!*frame) {
                QCOMPARE(count, 25);
                break;
            }
            QCOMPARE((*frame)->seconds, (*expected)->seconds);
            QCOMPARE(image::signalFrame(**frame).channels[1],
                     image::signalFrame(**expected).channels[1]);
        }
        // Asked again, the end is still the end.
        QVERIFY(frames.next().has_value());
        QVERIFY(!frames.next()->has_value());
    }
    /// Who stops early waits for nobody, and has the reader back.
    void theReaderIsFreeAgainAfterwards() {
        media::MediaReader reader = opened();
        {
            media::ReadAhead frames(reader, 3);
            QVERIFY(frames.next()->has_value());
        }
        QVERIFY(reader.seek(base::Seconds(0.0)).has_value());
        const auto frame = reader.next();
        QVERIFY(frame.has_value() && frame->has_value());
        QCOMPARE((*frame)->seconds, 0.0);
    }
    void nothingNeedsToBeTaken() {
        media::MediaReader reader = opened();
        const media::ReadAhead frames(reader, 2);
    }
};

RIG_TEST(TestReadAhead);
#include "test_read_ahead.moc"
