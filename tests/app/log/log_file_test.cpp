// SPDX-License-Identifier: GPL-3.0-or-later
// The log as a file: what was kept is there, whatever happens to the program, the disk or the file.
#include "command_runner.h"
#include "record/log_text.h"
#include "store/log_file.h"
#include "thorough.h"
#include <QDir>
#include <QFile>
#include <QFileInfo>
#include <QSqlDatabase>
#include <QSqlError>
#include <QSqlQuery>
#include <QTemporaryDir>
#include <csignal>
#include <gtest/gtest.h>
#include <sys/resource.h>
#include <sys/wait.h>
#include <unistd.h>

namespace {
using namespace amber;
using app::LogFile;
using record::Entry;

constexpr std::int64_t noon = 1'796'040'000'000; // 30 November 2026

class Kept : public testing::Test {
protected:
    [[nodiscard]] QString path(const char* name = "log.sqlite") const { return folder.filePath(QLatin1String(name)); }
    [[nodiscard]] std::unique_ptr<LogFile> open(const char* name = "log.sqlite") const {
        auto opened = LogFile::open(path(name));
        EXPECT_TRUE(opened) << (opened ? std::string() : opened.error());
        return opened ? std::move(opened.value()) : nullptr;
    }
    static record::Run run(const std::string& id = "r1") {
        return {id, "HR-K", "Lorimer L.4", "Ravelin and back", noon, ""};
    }
    static Entry head(int number, double celsius = 205.0, const std::string& supersedes = {}) {
        Entry e;
        e.id = "e" + std::to_string(number);
        e.run = "r1";
        e.supersedes = supersedes;
        e.at = noon + number;
        e.entered = noon + number + 1;
        e.phase = Phase::climb;
        e.engine = "1";
        e.what = "head";
        e.value = celsius + 273.15;
        e.planned = 478.15;
        e.words = "";
        return e;
    }
    static QByteArray bytes(const QString& of) {
        QFile file(of);
        return file.open(QIODevice::ReadOnly) ? file.readAll() : QByteArray();
    }
    /// Runs SQL on the file, as any tool would. @return what it said; empty: done
    static QString sql(const QString& of, const QStringList& all) {
        QString said;
        {
            auto db = QSqlDatabase::addDatabase(QStringLiteral("QSQLITE"), QStringLiteral("another tool"));
            db.setDatabaseName(of);
            EXPECT_TRUE(db.open());
            for (const auto& one : all) {
                QSqlQuery query(db);
                if (!query.exec(one) && said.isEmpty())
                    said = query.lastError().databaseText();
            }
            db.close();
        }
        QSqlDatabase::removeDatabase(QStringLiteral("another tool"));
        return said;
    }
    /// Lets a child write entries until it ends or is killed after so many; @return the ids that it was told are kept.
    template <class Before>
    std::vector<std::string> childKeeps(int killAfter, Before before) const {
        int ends[2];
        EXPECT_EQ(pipe(ends), 0);
        const pid_t child = fork();
        if (child == 0) {
            close(ends[0]);
            before();
            auto opened = LogFile::open(path());
            if (opened)
                for (int i = 1; i < 100'000; ++i) {
                    Entry e = head(i);
                    e.words = std::string(400, 'x');
                    if (!opened.value()->add(e).isEmpty())
                        break;
                    const std::string line = e.id + "\n";
                    if (write(ends[1], line.data(), line.size()) < 0)
                        break;
                }
            _exit(0);
        }
        close(ends[1]);
        std::vector<std::string> told;
        std::string line;
        char c = 0;
        while (read(ends[0], &c, 1) == 1) {
            if (c != '\n') {
                line += c;
                continue;
            }
            told.push_back(std::exchange(line, {}));
            if (static_cast<int>(told.size()) == killAfter)
                kill(child, SIGKILL);
        }
        close(ends[0]);
        int status = 0;
        waitpid(child, &status, 0);
        return told;
    }

    QTemporaryDir folder;
};

TEST_F(Kept, WhatIsAddedIsReadAgainToTheBitByAnyOpener) {
    auto log = open();
    ASSERT_EQ(log->add(run()), QString());
    Entry words;
    words.id = "w";
    words.run = "r1";
    words.at = words.entered = noon;
    words.what = "defect";
    words.kind = Entry::Kind::words;
    words.words = "oil on the cowl; \"port\" ü";
    words.rough = true;
    words.who = "R. Q.";
    ASSERT_EQ(log->add(words), QString());
    ASSERT_EQ(log->add(head(1, 204.9999999999)), QString());
    ASSERT_EQ(log->add(head(2, 215, "e1")), QString());
    auto second = open();
    const auto there = second->read();
    ASSERT_TRUE(there);
    EXPECT_EQ(there.value().runs.at("r1"), run());
    EXPECT_EQ(there.value().entries.at("w"), words);
    EXPECT_EQ(there.value().entries.at("e1"), head(1, 204.9999999999));
    EXPECT_EQ(there.value().entries.at("e2"), head(2, 215, "e1"));
    LogFile::Wanted other;
    other.airframe = QStringLiteral("HR-X");
    EXPECT_TRUE(second->read(other).value().entries.empty());
    EXPECT_EQ(second->airframes().value(), QStringList{QStringLiteral("HR-K")});
}

TEST_F(Kept, NobodyChangesOrTakesOutWhatIsKept) {
    {
        auto log = open();
        ASSERT_EQ(log->add(run()), QString());
        ASSERT_EQ(log->add(head(1)), QString());
        EXPECT_NE(log->add(head(1, 300)), QString()) << "an id is there once";
        auto implausible = head(2);
        implausible.value = 2000;
        EXPECT_TRUE(log->add(implausible).contains(QStringLiteral("not plausible")));
    }
    EXPECT_TRUE(
        sql(path(), {QStringLiteral("UPDATE entries SET value = 1")}).contains(QStringLiteral("never changed")));
    EXPECT_TRUE(sql(path(), {QStringLiteral("DELETE FROM entries")}).contains(QStringLiteral("never taken out")));
    EXPECT_TRUE(sql(path(), {QStringLiteral("DELETE FROM runs")}).contains(QStringLiteral("never taken out")));
    EXPECT_EQ(open()->read().value().entries.at("e1"), head(1));
}

TEST_F(Kept, KilledAtAnyInstantEverythingThatWasToldToBeKeptIsThere) {
    ASSERT_EQ(open()->add(run()), QString());
    int all = 0;
    for (const int after : {1, 2, 7, 31}) {
        QFile::remove(path());
        for (const char* more : {"-wal", "-shm"})
            QFile::remove(path() + QLatin1String(more));
        const auto told = childKeeps(after, [] {});
        ASSERT_GE(static_cast<int>(told.size()), after);
        auto log = open();
        EXPECT_TRUE(log->told().isEmpty()) << log->told().join(QLatin1Char(' ')).toStdString();
        const auto there = log->read().value().entries;
        for (const auto& id : told)
            EXPECT_TRUE(there.contains(id)) << id << " of " << told.size();
        EXPECT_LE(there.size(), told.size() + 1) << "one may have been kept and not told yet";
        all += static_cast<int>(told.size());
    }
    EXPECT_GE(all, 41);
}

TEST_F(Kept, AFullDiskIsToldAndLosesNothing) {
    const auto told = childKeeps(-1, [] {
        signal(SIGXFSZ, SIG_IGN);
        const rlimit most{300'000, 300'000};
        setrlimit(RLIMIT_FSIZE, &most);
    });
    EXPECT_GT(told.size(), 10u);
    EXPECT_LT(told.size(), 5'000u) << "the disk was never full";
    auto log = open();
    const auto there = log->read().value().entries;
    for (const auto& id : told)
        EXPECT_TRUE(there.contains(id)) << id;
    EXPECT_EQ(log->add(head(90'000)), QString()) << "and with room again it goes on";
}

TEST_F(Kept, AnOlderLogIsCopiedAndBroughtUpToDate) {
    ASSERT_EQ(
        sql(path(),
            {QStringLiteral("CREATE TABLE version (number BIGINT)"), QStringLiteral("INSERT INTO version VALUES (1)"),
             QStringLiteral("CREATE TABLE runs (id TEXT PRIMARY KEY, airframe TEXT, type TEXT, title TEXT, "
                            "began BIGINT, sortie TEXT)"),
             QStringLiteral("CREATE TABLE entries (id TEXT PRIMARY KEY, run TEXT, supersedes TEXT, at "
                            "BIGINT, rough BIGINT, entered BIGINT, who TEXT, phase TEXT, engine TEXT, what "
                            "TEXT, kind TEXT, value DOUBLE, planned DOUBLE, words TEXT)"),
             QStringLiteral("INSERT INTO runs VALUES ('r1', 'HR-K', '', '', 1796040000000, '')"),
             QStringLiteral("INSERT INTO entries VALUES ('e1', 'r1', '', 1796040000000, 0, 1796040000000, "
                            "'', 'climb', '1', 'head', 'figure', 478.15, NULL, '')")}),
        QString());
    {
        auto log = open();
        ASSERT_EQ(log->told().size(), 1);
        EXPECT_TRUE(log->told().front().contains(QStringLiteral("a copy as it was")))
            << log->told().front().toStdString();
        EXPECT_EQ(log->read().value().entries.at("e1").value, 478.15);
        EXPECT_FALSE(log->read().value().entries.at("e1").planned);
    }
    EXPECT_NE(sql(path(), {QStringLiteral("DELETE FROM entries")}), QString()) << "it is guarded now";
    EXPECT_EQ(sql(path() + QStringLiteral(".before-4"), {QStringLiteral("DELETE FROM entries")}), QString())
        << "the copy is of the old version";
    auto log = open();
    EXPECT_TRUE(log->told().isEmpty()) << "once";
    auto answer = head(9);
    answer.what = "signed";
    answer.kind = record::Entry::Kind::words;
    answer.planned.reset();
    answer.words = "A. Fitter";
    answer.about = "e1";
    ASSERT_EQ(log->add(answer), QString()) << "an engineer's answer to what the old one held";
    EXPECT_EQ(log->read().value().entries.at(answer.id).about, "e1");
}

TEST_F(Kept, ANewerLogAndAnotherFileAreRefusedAndUntouched) {
    ASSERT_EQ(open()->add(run()), QString());
    ASSERT_EQ(sql(path(), {QStringLiteral("UPDATE version SET number = 99")}), QString());
    const auto newer = LogFile::open(path());
    ASSERT_FALSE(newer);
    EXPECT_NE(newer.error().find("written by a newer program (version 99"), std::string::npos) << newer.error();
    ASSERT_EQ(sql(path(), {QStringLiteral("UPDATE version SET number = 4")}), QString());
    EXPECT_EQ(open()->read().value().runs.size(), 1u);

    QFile other(path("notes.toml"));
    ASSERT_TRUE(other.open(QIODevice::WriteOnly));
    other.write(QByteArray("format = 2\n").repeated(500));
    other.close();
    const QByteArray before = bytes(path("notes.toml"));
    const auto refused = LogFile::open(path("notes.toml"));
    ASSERT_FALSE(refused);
    EXPECT_NE(refused.error().find("no SQLite file"), std::string::npos) << refused.error();
    EXPECT_EQ(bytes(path("notes.toml")), before);
    EXPECT_FALSE(LogFile::open(folder.path()));
}

TEST_F(Kept, AnotherProgramsSqliteFileAndALogThatIsInUseAreLeftAsTheyAre) {
    ASSERT_EQ(sql(path("theirs.sqlite"), {QStringLiteral("CREATE TABLE version (number BIGINT)"),
                                          QStringLiteral("CREATE TABLE songs (title TEXT)")}),
              QString());
    const QByteArray before = bytes(path("theirs.sqlite"));
    const auto theirs = LogFile::open(path("theirs.sqlite"));
    ASSERT_FALSE(theirs);
    EXPECT_NE(theirs.error().find("another program's"), std::string::npos) << theirs.error();
    EXPECT_EQ(bytes(path("theirs.sqlite")), before);
    EXPECT_FALSE(QFileInfo::exists(path("theirs.sqlite.damaged")));

    // Held by somebody: refused for now, and not taken for damaged.
    ASSERT_EQ(sql(path(), {QStringLiteral("CREATE TABLE version (number BIGINT)"),
                           QStringLiteral("INSERT INTO version VALUES (1)"),
                           QStringLiteral("CREATE TABLE entries (id TEXT PRIMARY KEY)")}),
              QString());
    {
        auto db = QSqlDatabase::addDatabase(QStringLiteral("QSQLITE"), QStringLiteral("holds it"));
        db.setDatabaseName(path());
        ASSERT_TRUE(db.open());
        ASSERT_TRUE(QSqlQuery(db).exec(QStringLiteral("BEGIN EXCLUSIVE")));
        const int usual = std::exchange(LogFile::patience, 0);
        const auto held = LogFile::open(path());
        LogFile::patience = usual;
        ASSERT_FALSE(held);
        EXPECT_NE(held.error().find("locked"), std::string::npos) << held.error();
        db.close();
    }
    QSqlDatabase::removeDatabase(QStringLiteral("holds it"));
    EXPECT_TRUE(QFileInfo::exists(path()));
    EXPECT_FALSE(QFileInfo::exists(path("log.sqlite.damaged")));
}

TEST_F(Kept, OfADamagedFileTheRestIsRescuedAndItIsTold) {
    record::Log many;
    many.runs.emplace("r1", run());
    for (int i = 1; i <= 3000; ++i) {
        const Entry e = head(i);
        many.entries.emplace(e.id, e);
    }
    ASSERT_EQ(open()->merge(many).value().entries, 3000u);
    {
        // Two pages in the middle, of 4,096 bytes each, are gone.
        QFile file(path());
        ASSERT_TRUE(file.open(QIODevice::ReadWrite));
        ASSERT_GT(file.size(), 40 * 4096);
        file.seek(20 * 4096);
        file.write(QByteArray(2 * 4096, '\x5a'));
    }
    auto log = open();
    ASSERT_FALSE(log->told().isEmpty());
    EXPECT_TRUE(log->told().front().contains(QStringLiteral("was damaged"))) << log->told().front().toStdString();
    const auto there = log->read().value();
    EXPECT_GT(there.entries.size(), 2'000u);
    EXPECT_LT(there.entries.size(), 3'000u);
    EXPECT_EQ(there.runs.size(), 1u);
    for (const auto& [id, e] : there.entries)
        EXPECT_EQ(e, many.entries.at(id)) << "what is there is as it was";
    EXPECT_TRUE(QFileInfo::exists(path() + QStringLiteral(".damaged")));
    EXPECT_EQ(log->add(head(4000)), QString());
}

TEST_F(Kept, InAFolderThatMayOnlyBeReadItIsRead) {
    ASSERT_EQ(open()->add(run()), QString());
    ASSERT_EQ(open()->add(head(1)), QString());
    QFile::setPermissions(folder.path(), QFile::ReadOwner | QFile::ExeOwner | QFile::ReadOther | QFile::ExeOther |
                                             QFile::ReadGroup | QFile::ExeGroup);
    QFile::setPermissions(path(), QFile::ReadOwner | QFile::ReadOther | QFile::ReadGroup);
    const pid_t child = fork();
    if (child == 0) {
        if (::geteuid() == 0 && ::setuid(65534) != 0) // who may everything sees no read-only folder
            _exit(9);
        auto log = LogFile::open(path());
        if (!log) {
            fprintf(stderr, "%s\n", log.error().c_str());
            _exit(1);
        }
        const bool read = log.value()->read().value().entries.size() == 1;
        const bool refused = !log.value()->add(head(2)).isEmpty();
        _exit(read && refused ? 0 : 2);
    }
    int status = 0;
    ::waitpid(child, &status, 0);
    EXPECT_EQ(WEXITSTATUS(status), 0);
    QFile::setPermissions(folder.path(), QFile::ReadOwner | QFile::WriteOwner | QFile::ExeOwner);
}

/// A log of some thousand rows, damaged in the middle.
class Damaged : public Kept {
protected:
    void SetUp() override {
        record::Log many;
        many.runs.emplace("r1", run());
        for (int i = 1; i <= 800; ++i) {
            const Entry e = head(i);
            many.entries.emplace(e.id, e);
        }
        ASSERT_EQ(open()->merge(many).value().entries, 800u);
        QFile file(path());
        ASSERT_TRUE(file.open(QIODevice::ReadWrite));
        file.seek(10 * 4096);
        file.write(QByteArray(2 * 4096, '\x5a'));
    }
    static std::size_t entries(LogFile& log) { return log.read().value().entries.size(); }
};

TEST_F(Damaged, RescuedAndStoppedAtAnyMomentIsRescuedTheNextTimeAndTold) {
    std::size_t whole = 0;
    {
        auto log = open();
        whole = entries(*log);
        EXPECT_FALSE(log->told().isEmpty());
    }
    ASSERT_GT(whole, 400u);
    const QByteArray wrong = bytes(path() + QStringLiteral(".damaged"));
    int stopped = 0;
    const int times = test::thorough() ? 200 : 12, step = 600'000 / times; // µs
    for (int wait = 0; wait < times; ++wait) {
        for (const auto& name : folder.path().isEmpty() ? QStringList() : QDir(folder.path()).entryList(QDir::Files))
            QFile::remove(folder.filePath(name));
        QFile file(path());
        ASSERT_TRUE(file.open(QIODevice::WriteOnly));
        file.write(wrong);
        file.close();
        const pid_t child = fork();
        ASSERT_GE(child, 0);
        if (child == 0) {
            auto log = LogFile::open(path());
            _exit(log ? 0 : 1); // without telling anybody
        }
        ::usleep(static_cast<useconds_t>(wait * step));
        ::kill(child, SIGKILL);
        int status = 0;
        ::waitpid(child, &status, 0);
        stopped += WIFSIGNALED(status) ? 1 : 0;
        auto log = open();
        ASSERT_TRUE(log);
        EXPECT_EQ(entries(*log), whole) << "killed after " << wait * step / 1000.0 << " ms";
        EXPECT_FALSE(log->told().isEmpty()) << "killed after " << wait * step / 1000.0 << " ms";
    }
    EXPECT_GT(stopped, times / 6) << "some were stopped in the middle";
}

TEST_F(Damaged, OnAFullDiskItIsLeftAsItWas) {
    const QByteArray before = bytes(path());
    const pid_t child = fork();
    if (child == 0) {
        const rlimit most{60'000, 60'000};
        ::signal(SIGXFSZ, SIG_IGN);
        ::setrlimit(RLIMIT_FSIZE, &most);
        const auto log = LogFile::open(path());
        _exit(log ? 0 : 1);
    }
    int status = 0;
    ::waitpid(child, &status, 0);
    EXPECT_EQ(WEXITSTATUS(status), 1) << "and it says so";
    EXPECT_EQ(bytes(path()), before);
    EXPECT_GT(entries(*open()), 400u) << "with room again it is rescued";
}

TEST_F(Damaged, WhatWasNotToldIsToldByTheNext) {
    {
        auto log = LogFile::open(path());
        ASSERT_TRUE(log);
    }
    EXPECT_FALSE(open()->told().isEmpty());
    open()->wasTold();
    EXPECT_TRUE(open()->told().isEmpty()) << "once";
}

TEST_F(Kept, WhoOnlyLooksInLeavesADamagedFileWhereItIs) {
    ASSERT_EQ(open()->add(run()), QString());
    {
        QFile file(path());
        ASSERT_TRUE(file.open(QIODevice::ReadWrite));
        file.seek(100); // what is where, behind the words that say it is SQLite
        file.write(QByteArray(3'000, '\x5a'));
    }
    const QByteArray before = bytes(path());
    const auto looked = LogFile::open(path(), LogFile::Check::none);
    EXPECT_FALSE(looked);
    EXPECT_EQ(bytes(path()), before);
    EXPECT_FALSE(QFileInfo::exists(path() + QStringLiteral(".damaged")));
    EXPECT_TRUE(open()) << "who may puts it aside";
    EXPECT_TRUE(QFileInfo::exists(path() + QStringLiteral(".damaged")));
}

TEST_F(Kept, ALargeLogThatWasClosedInOrderIsLookedThroughWhenSomebodyAsks) {
    record::Log many;
    for (int i = 1; i <= 2'500; ++i) {
        Entry e = head(i);
        e.words = std::string(1'900, 'w');
        many.entries.emplace(e.id, e);
    }
    ASSERT_EQ(open()->append(many), QString());
    ASSERT_GT(QFileInfo(path()).size(), 4'000'000);
    {
        QFile file(path());
        ASSERT_TRUE(file.open(QIODevice::ReadWrite));
        file.seek(600 * 4096);
        file.write(QByteArray(4096, '\x5a'));
    }
    {
        auto log = open();
        ASSERT_NE(log, nullptr);
        EXPECT_TRUE(log->told().isEmpty());
        const auto read = log->read();
        ASSERT_FALSE(read);
        EXPECT_NE(read.error().find("amber-throttle log check"), std::string::npos) << read.error();
    }
    const auto checked = test::run({QStringLiteral("log"), QStringLiteral("check"), QStringLiteral("--log"), path()});
    EXPECT_EQ(checked.code, 1);
    EXPECT_TRUE(QString::fromUtf8(checked.err).contains(QStringLiteral("was damaged"))) << checked.err.toStdString();
    const auto there = open()->read();
    ASSERT_TRUE(there) << there.error();
    EXPECT_GT(there.value().entries.size(), 2'400u);
    EXPECT_LT(there.value().entries.size(), 2'500u);
    EXPECT_EQ(test::run({QStringLiteral("log"), QStringLiteral("check"), QStringLiteral("--log"), path()}).code, 0);
}

TEST_F(Kept, TwoLaptopsMergedEitherWayHoldTheSame) {
    ASSERT_EQ(open()->add(run()), QString());
    ASSERT_EQ(open()->add(head(1)), QString());
    ASSERT_TRUE(QFile::copy(path(), path("other.sqlite")));
    {
        auto here = open(), there = open("other.sqlite");
        ASSERT_EQ(here->add(head(2, 215, "e1")), QString());
        ASSERT_EQ(there->add(head(3, 211, "e1")), QString());
        const auto a = here->read().value(), b = there->read().value();
        const auto merged = here->merge(b);
        ASSERT_TRUE(merged);
        EXPECT_EQ(merged.value().entries, 1u);
        ASSERT_EQ(merged.value().told.size(), 1u) << "corrected apart";
        ASSERT_TRUE(there->merge(a));
        EXPECT_TRUE(here->read().value() == there->read().value());
        EXPECT_EQ(here->merge(b).value().entries, 0u);
        EXPECT_EQ(here->read().value().entries.size(), 3u);
    }
}

TEST_F(Kept, TheCommandsBeginAddCorrectListCarryAndTellTrends) {
    const QString log = path();
    const auto say = [&](QStringList arguments) {
        arguments << QStringLiteral("--log") << log;
        return test::run(arguments);
    };
    const auto words = [](const char* text) { return QString::fromUtf8(text).split(QLatin1Char('|')); };
    EXPECT_EQ(say(words("log|add|--phase|climb|--what|head|--looked")).code, 2) << "no run yet";
    const QString sortie = QString::fromStdString(test::dataFolder()) + QStringLiteral("/demo/lorimer-spring.toml");
    const auto began = say({QStringLiteral("log"), QStringLiteral("begin"), QStringLiteral("--sortie"), sortie,
                            QStringLiteral("--at"), QStringLiteral("2026-11-28 09:00")});
    ASSERT_EQ(began.code, 0) << began.err.toStdString();
    const auto first =
        say(words("log|add|--phase|climb|--engine|port|--what|head|--figure|226 °C|--at|2026-11-28 09:20"));
    ASSERT_EQ(first.code, 0) << first.err.toStdString();
    EXPECT_TRUE(QString::fromUtf8(first.err).contains(QStringLiteral("The plan of the day expected")));
    const auto corrected =
        say(QStringList{QStringLiteral("log"), QStringLiteral("add"), QStringLiteral("--corrects"),
                        QString::fromUtf8(first.out).trimmed(), QStringLiteral("--figure"), QStringLiteral("216 °C")});
    ASSERT_EQ(corrected.code, 0) << corrected.err.toStdString();
    EXPECT_EQ(say(words("log|add|--phase|climb|--engine|middle|--what|head|--figure|216 °C")).code, 2);
    EXPECT_EQ(say(words("log|add|--phase|climb|--engine|port|--what|head|--figure|2160 °C")).code, 2);
    EXPECT_EQ(say(words("log|add|--phase|noon|--what|head|--looked")).code, 2);
    ASSERT_EQ(say(words("log|add|--phase|write-up|--what|defect|--words|oil weeps at the scavenge pump")).code, 0);
    const QString listed = QString::fromUtf8(say(words("log|list")).out);
    EXPECT_TRUE(listed.contains(QStringLiteral("216 °C  (planned "))) << listed.toStdString();
    EXPECT_TRUE(listed.contains(QStringLiteral("was 226 °C, corrected"))) << listed.toStdString();
    EXPECT_TRUE(listed.contains(QStringLiteral("oil weeps at the scavenge pump")));
    // What is planned is the plan's own figure of that line.
    const auto plan = test::run({QStringLiteral("plan"), sortie, QStringLiteral("--json")});
    Problems problems;
    const auto all = record::readLogJson(say(words("log|list|--json")).out.toStdString(), "list", problems);
    ASSERT_TRUE(problems.empty());
    ASSERT_EQ(all.entries.size(), 3u);
    const auto& entry = all.entries.at(QString::fromUtf8(corrected.out).trimmed().toStdString());
    EXPECT_EQ(entry.engine, "1");
    ASSERT_TRUE(entry.planned);
    EXPECT_GT(*entry.planned, 400.0);
    EXPECT_LT(*entry.planned, 540.0);
    // Carried to another and merged: the same, and nothing twice.
    const QString json = path("carried.json");
    ASSERT_EQ(say({QStringLiteral("log"), QStringLiteral("export"), QStringLiteral("--file"), json}).code, 0);
    const auto other = [&](const char* what, const QString& file) {
        return test::run({QStringLiteral("log"), QLatin1String(what), QStringLiteral("--log"), path("other.sqlite"),
                          QStringLiteral("--file"), file});
    };
    EXPECT_TRUE(QString::fromUtf8(other("import", json).out).contains(QStringLiteral("1 runs and 3 entries")));
    EXPECT_TRUE(QString::fromUtf8(other("merge", log).out).contains(QStringLiteral("0 runs and 0 entries")));
    const auto trend = say(words("trend|HR-K|--all"));
    EXPECT_EQ(trend.code, 0) << trend.err.toStdString();
    EXPECT_TRUE(QString::fromUtf8(trend.out).contains(QStringLiteral("the 1 reading does not tell")))
        << trend.out.toStdString();
    EXPECT_TRUE(trend.out.contains("a licensed engineer judges"));
    EXPECT_EQ(say(words("trend|HR-X")).code, 2);
}
} // namespace
