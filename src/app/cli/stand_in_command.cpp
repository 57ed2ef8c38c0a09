// SPDX-License-Identifier: GPL-3.0-or-later
// A stand-in for an aircraft's engine recorder: a flight by engines of another build, sent line by line.
#include "aloft/stand_in.h"
#include "cli/command.h"
#include "cli/exit_codes.h"
#include "cli/option_range.h"
#include "flight/open_files.h"
#include "rehearse/setup.h"
#include "store/output.h"
#include "units/text.h"
#include <QCoreApplication>
#include <QFile>
#include <QHostAddress>
#include <QTcpServer>
#include <QTcpSocket>
#include <QTimer>
#include <QUdpSocket>
#include <algorithm>
#include <cmath>
#include <cstdio>
#include <cstdlib>
#include <fcntl.h>
#include <fmt/format.h>
#include <termios.h>
#include <unistd.h>

namespace amber::app {
namespace {

class StandInCommand : public Command {
public:
    [[nodiscard]] const char* name() const override { return "stand-in"; }
    [[nodiscard]] const char* help() const override {
        return "Plays an aircraft with an engine recorder, to try live recording without one: its lines to a serial "
               "port (a pseudo-terminal), UDP, TCP or a file";
    }
    void declare(Arguments& a) override {
        a.text("sortie", sortie_, "The sortie that it flies", Arguments::Need::required);
        a.text("--serial", serial_, "Makes this path, a pseudo-terminal that stands for the serial port");
        a.text("--udp", udp_, "Sends to this port of this machine, a line a datagram");
        a.text("--tcp", tcp_, "Listens at this port of this machine");
        a.text("--csv", csv_, "Writes the whole flight to this file, at once");
        a.text("--speed", speed_, "How many seconds of the flight go by in one; without: 1");
        a.text("--from", from_, "Second of the flight that it begins at; without: 0");
        a.text("--seed", seed_, "Whole number: which aircraft of the type, and its noise; without: 1");
        a.text("--fault", faults_, "Faults and when, in seconds, commas between: oil-lost 0.5@3600, dead 2@5000");
        a.oneOf({"--serial", "--udp", "--tcp", "--csv"});
    }
    int run(const CommandActions&) override {
        if (serial_.empty() && udp_.empty() && tcp_.empty() && csv_.empty())
            return wrong("one of --serial, --udp, --tcp or --csv says where to");
        const auto number = [](const std::string& text, double low, double high) -> std::optional<double> {
            std::string_view rest;
            const auto read = readNumber(text, rest);
            return read && rest.empty() && read.value() >= low && read.value() <= high ? std::optional(read.value())
                                                                                       : std::nullopt;
        };
        aloft::StandInSetting setting;
        if (!seed_.empty()) {
            const auto seed = readSeed(seed_);
            if (!seed)
                return wrong("--seed: write a whole number from 0");
            setting.seed = *seed;
        }
        const auto speed = speed_.empty() ? std::optional(1.0) : number(speed_, 0.1, 1000.0);
        const auto from = from_.empty() ? std::optional(0.0) : number(from_, 0.0, 86'400.0);
        if (!speed)
            return wrong("--speed: write a number from 0.1 to 1,000");
        if (!from)
            return wrong("--from: write seconds of the flight, from 0 to 86,400");
        std::optional<double> port;
        if (const auto& text = !udp_.empty() ? udp_ : tcp_; !text.empty()) {
            port = number(text, 1.0, 65'535.0);
            if (!port || *port != std::floor(*port))
                return wrong("--udp, --tcp: write a port from 1 to 65,535");
        }
        const auto loaded = flight::loadSortie(sortie_);
        for (const auto& p : loaded.problems)
            fmt::print(stderr, "{}\n", p.text());
        if (!loaded.ok())
            return exitProblems;
        if (!faults_.empty()) {
            setting.faults.resize(loaded.aircraft->notes.engineCount());
            for (std::size_t begin = 0; begin < faults_.size();) {
                const auto comma = std::min(faults_.find(',', begin), faults_.size());
                const auto trap = rehearse::readTrap(faults_.substr(begin, comma - begin), loaded.aircraft->notes);
                begin = comma + 1;
                if (!trap)
                    return wrong("--fault: " + trap.error());
                const auto& t = trap.value();
                const double begins = t.phase ? flight::fly(*loaded.aircraft, *loaded.sortie)[*t.phase].start : 0.0;
                setting.faults[static_cast<std::size_t>(std::max(0, t.engine))].faults.push_back(
                    {t.fault, t.severity, static_cast<powerplant::Milliseconds>(1000.0 * (begins + t.earliest))});
            }
        }
        flight_ = aloft::standInFlight(*loaded.aircraft, *loaded.sortie, setting);
        if (!csv_.empty()) {
            if (const QString over = overInput(csv_, {sortie_}); !over.isEmpty())
                return wrong(over.toStdString());
            return writeFile();
        }
        return play(*speed, static_cast<std::size_t>(*from), static_cast<quint16>(port.value_or(0)));
    }

private:
    static int wrong(const std::string& sentence) {
        fmt::print(stderr, "amber-throttle stand-in: {}\n", sentence);
        return exitUsage;
    }
    int writeFile() {
        std::string text = "# Made up by a stand-in: no aircraft flew.\n" + aloft::headingLine(flight_) + "\n";
        for (std::size_t i = 0; i < flight_.rows.size(); ++i)
            text += aloft::rowLine(flight_, i) + "\n";
        const QString why = writeAtomically(QString::fromStdString(csv_), QByteArray::fromStdString(text));
        if (!why.isEmpty())
            return wrong(why.toStdString());
        return exitOk;
    }
    int play(double speed, std::size_t from, quint16 port) {
        int count = 1;
        char name[] = "amber-throttle";
        char* names[] = {name, nullptr};
        std::unique_ptr<QCoreApplication> application;
        if (!QCoreApplication::instance())
            application = std::make_unique<QCoreApplication>(count, names);
        int master = -1;
        QTcpServer server;
        std::vector<QTcpSocket*> clients;
        QUdpSocket datagrams;
        const QByteArray heading = QByteArray::fromStdString(aloft::headingLine(flight_) + "\n");
        if (!serial_.empty()) {
            if (QFile::exists(QString::fromStdString(serial_)))
                return wrong(fmt::format("{} is there already: name a path that is not", serial_));
            master = posix_openpt(O_RDWR | O_NOCTTY | O_NONBLOCK);
            if (master < 0 || grantpt(master) != 0 || unlockpt(master) != 0 ||
                symlink(ptsname(master), serial_.c_str()) != 0)
                return wrong(fmt::format("{} could not be made", serial_));
            termios raw{};
            tcgetattr(master, &raw);
            cfmakeraw(&raw);
            tcsetattr(master, TCSANOW, &raw);
        } else if (!tcp_.empty()) {
            if (!server.listen(QHostAddress::LocalHost, port))
                return wrong(fmt::format("port {}: {}", port, server.errorString().toStdString()));
            QObject::connect(&server, &QTcpServer::newConnection, &server, [&] {
                while (auto* client = server.nextPendingConnection()) {
                    clients.push_back(client);
                    client->write(heading);
                    QObject::connect(client, &QTcpSocket::disconnected, client, [&, client] {
                        std::erase(clients, client);
                        client->deleteLater();
                    });
                }
            });
        }
        std::size_t row = from, sent = 0;
        const auto send = [&](const QByteArray& line) {
            if (master >= 0) {
                // Nobody reads: what does not fit is gone, as on a wire.
                (void)!::write(master, line.constData(), static_cast<std::size_t>(line.size()));
            } else if (!tcp_.empty()) {
                for (auto* client : clients)
                    client->write(line);
            } else {
                datagrams.writeDatagram(line, QHostAddress::LocalHost, port);
            }
        };
        QTimer timer;
        timer.setTimerType(Qt::PreciseTimer);
        timer.setInterval(std::max(1, static_cast<int>(std::lround(1000.0 / speed))));
        const auto each =
            std::max<std::size_t>(1, static_cast<std::size_t>(std::lround(speed * timer.interval() / 1000.0)));
        QObject::connect(&timer, &QTimer::timeout, &timer, [&] {
            for (std::size_t i = 0; i < each && row < flight_.rows.size(); ++i, ++row) {
                if (sent++ % 30 == 0) // whoever comes late learns the columns
                    send(heading);
                send(QByteArray::fromStdString(aloft::rowLine(flight_, row) + "\n"));
            }
            if (row >= flight_.rows.size())
                QCoreApplication::quit();
        });
        timer.start();
        fmt::print("Made up: {} of another build flies, {} in all; {} columns to {}\n", sortie_,
                   formatHoursOrMinutes(static_cast<double>(flight_.rows.size())), flight_.headings.size(),
                   !serial_.empty() ? serial_
                   : !tcp_.empty()  ? fmt::format("TCP port {}", port)
                                    : fmt::format("UDP port {}", port));
        std::fflush(stdout);
        QCoreApplication::exec();
        if (master >= 0) {
            ::unlink(serial_.c_str());
            ::close(master);
        }
        return exitOk;
    }

    aloft::StandInFlight flight_;
    std::string sortie_, serial_, udp_, tcp_, csv_, speed_, from_, seed_, faults_;
};

} // namespace

std::unique_ptr<Command> standInCommand() {
    return std::make_unique<StandInCommand>();
}

} // namespace amber::app
