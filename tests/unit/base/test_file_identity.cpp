// SPDX-License-Identifier: GPL-3.0-or-later
#include <QTemporaryDir>

#include "base/file_identity.h"
#include "support/qt_test.h"
#include "support/test_list.h"

using namespace rigmatch;

class TestFileIdentity : public QObject {
    Q_OBJECT
private Q_SLOTS:
    /// Test vectors of the hash's authors, FNV-1a of 64 bit (from memory).
    void smallFilesAreHashedWhole_data() {
        QTest::addColumn<QByteArray>("content");
        QTest::addColumn<QString>("identity");
        QTest::newRow("a") << QByteArray("a") << "1-af63dc4c8601ec8c";
        QTest::newRow("foobar") << QByteArray("foobar") << "6-85944171f73967e8";
    }
    void smallFilesAreHashedWhole() {
        QFETCH(QByteArray, content);
        QFETCH(QString, identity);
        QCOMPARE(identityOf("one", content), identity);
    }
    /// A card that is copied keeps its files' identities; anything else at either end or in the
    /// middle, or one byte more, makes another.
    void contentMakesTheIdentity() {
        const QByteArray large(9 << 20, 'x');
        const QString own = identityOf("large", large);
        QCOMPARE(identityOf("copied under another name", large), own);
        for (const qsizetype at : {qsizetype{5}, large.size() / 2, large.size() - 1}) {
            QByteArray other = large;
            other[at] = 'y';
            QVERIFY(identityOf("other", other) != own);
        }
        QVERIFY(identityOf("longer", large + 'x') != own);
        QCOMPARE(base::sizeOfIdentity(own.toStdString()), std::uintmax_t(large.size()));
    }
    void whatCannotBeReadHasNone() {
        QVERIFY(base::fileIdentity(m_folder.filePath("gone").toStdString()).empty());
        QVERIFY(base::fileIdentity(m_folder.path().toStdString()).empty());
        QVERIFY(identityOf("empty", {}).isEmpty());
        QCOMPARE(base::sizeOfIdentity(""), std::uintmax_t{0});
    }

private:
    QString identityOf(const QString& name, const QByteArray& content) {
        QFile file(m_folder.filePath(name));
        if (!file.open(QIODevice::WriteOnly)) return {};
        file.write(content);
        file.close();
        return QString::fromStdString(base::fileIdentity(file.fileName().toStdString()));
    }
    QTemporaryDir m_folder;
};

RIG_TEST(TestFileIdentity);
#include "test_file_identity.moc"
