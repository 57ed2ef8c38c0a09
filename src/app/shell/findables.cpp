// SPDX-License-Identifier: GPL-3.0-or-later
#include "shell/findables.h"
#include "kit/words.h"
#include "pages/page_table.h"
#include "pages/trouble_page.h"
#include "shell/glossary.h"
#include "shell/main_window.h"
#include "shell/manual_window.h"
#include <QMenuBar>

namespace amber::app {
namespace {
using Sort = Findable::Kind;

QString plainText(std::string_view s) {
    return QString::fromUtf8(s.data(), static_cast<qsizetype>(s.size()));
}

class Gathering {
public:
    explicit Gathering(MainWindow& window) : window_(window) {}

    std::vector<Findable> all() {
        if (window_.document().isOpen()) {
            pages();
            plan();
        }
        acts();
        for (const auto& term : glossary())
            add({Sort::term, term.term, term.meaning, term.not_.join(QLatin1Char(' ')),
                 [w = &window_, t = term.term] { w->openManual(QStringLiteral("glossary"), t); }});
        for (const auto& chapter : chapters())
            add({Sort::chapter,
                 MainWindow::tr(chapter.title),
                 {},
                 {},
                 [w = &window_, key = QString::fromLatin1(chapter.key)] { w->openManual(key); }});
        return std::move(out_);
    }

private:
    void add(Findable f, bool near = false) {
        f.near = near;
        out_.push_back(std::move(f));
    }
    /// To a page of a phase, and where it has columns to one of them.
    [[nodiscard]] std::function<void()> to(Phase phase, std::string_view page, const char* column = nullptr) const {
        return [w = &window_, phase, page, column] {
            w->showPlanPage(phase, page);
            if (column)
                w->page().focusColumn(QLatin1String(column));
        };
    }
    void pages() {
        for (std::size_t i = 0; i < plannedPhases; ++i) {
            const Phase phase = phaseNames[i].phase;
            for (const auto* row : pagesOf(phase, window_.document()))
                add({Sort::page,
                     plainText(titleOf(phase)) + QStringLiteral(" · ") + MainWindow::tr(row->title),
                     {},
                     {},
                     to(phase, row->key)},
                    phase == window_.page().phase());
        }
        for (const auto& row : troubleTable())
            add({Sort::page,
                 MainWindow::tr("Trouble") + QStringLiteral(" · ") + MainWindow::tr(row.title),
                 {},
                 {},
                 [w = &window_, key = row.key] {
                     if (!w->inTrouble())
                         w->openTrouble();
                     w->trouble().showPage(key);
                 }});
    }
    void plan() {
        const auto& plan = window_.document().plan();
        for (const auto& phase : plan.phases) {
            const auto* first = pagesOf(phase.phase, window_.document()).front();
            const bool near = phase.phase == window_.page().phase();
            const QString in = plainText(titleOf(phase.phase));
            const auto titled = [&](const std::string& what) { return in + QStringLiteral(" · ") + plainText(what); };
            for (const auto& line : phase.clocks)
                // By its reason too, and by what it is, which its few words may leave out: "To high at 8,300 ft" is a
                // blower's.
                add({Sort::figure, titled(line.what), plainText(line.value),
                     plainText(line.why) + QLatin1Char(' ') +
                         plainText(line.fact.id).replace(QLatin1Char('-'), QLatin1Char(' ')) +
                         (line.fact.id.find("gear") != std::string::npos ? QStringLiteral(" blower") : QString()),
                     to(phase.phase, first->key, "clock")},
                    near);
            for (const auto& line : phase.expect)
                add({Sort::figure, titled(line.title), plainText(line.text), {}, to(phase.phase, first->key, "expect")},
                    near);
            for (const auto& line : phase.set)
                add({Sort::step, titled(line.what), plainText(line.value), plainText(line.why),
                     to(phase.phase, first->key, "set")},
                    near);
        }
    }
    void acts() {
        for (const auto* menu : window_.menuBar()->actions())
            for (auto* action : menu->menu()->actions())
                if (!action->isSeparator() && !action->menu() && action->isEnabled() && action->isVisible())
                    add({Sort::act,
                         action->text().remove(QLatin1Char('&')),
                         action->shortcut().toString(QKeySequence::NativeText),
                         {},
                         [action] { action->trigger(); }});
    }

    MainWindow& window_;
    std::vector<Findable> out_;
};
} // namespace

std::vector<Findable> findables(MainWindow& window) {
    return Gathering(window).all();
}

} // namespace amber::app
