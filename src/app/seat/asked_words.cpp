// SPDX-License-Identifier: GPL-3.0-or-later
#include "seat/asked_words.h"
#include "kit/html.h"
#include "kit/words.h"
#include "units/text.h"
#include <QCoreApplication>
#include <cmath>

namespace amber::app {
namespace {
class Words {
    Q_DECLARE_TR_FUNCTIONS(Words)
public:
    Words(const rehearse::Session& session, const Colours& colours, bool two)
        : s_(session), n_(session.aircraft().notes), c_(colours), two_(two) {}

    [[nodiscard]] QString all() const {
        if (!rehearse::isAccompanied(s_.way()))
            return tr("Nothing is said until the debrief. F4 calls a fault when you know it; F5 is the debrief.");
        if (const auto& over = s_.rehearsal().over())
            return red(over->by == rehearse::OverBy::hitGround ? tr("The aircraft has hit the ground. ")
                       : over->by == rehearse::OverBy::offTheEnd
                           ? tr("The aircraft has run off the end of the runway. ")
                           : tr("The blades were pulled with the ignition on. ")) +
                   tr("F5: the debrief says why. Back (Ctrl+Z, or the score) goes to before it.");
        const auto* next = s_.guide().next();
        if (!next)
            return tr("<b>The drill is over.</b> F5: the debrief.");
        QString out;
        if (!s_.guide().inVain().empty())
            out = amber(tr("It did not come in time: %1. ").arg(html::text(s_.guide().inVain())));
        if (const auto& why = s_.guide().willNotCome(); !why.empty() && !next->ofDay)
            return out + amber(html::text(why));
        return out + (next->begins && !next->ofDay ? phase(*next)
                      : s_.guide().waits()         ? wait(*next)
                      : !s_.guide().due()          ? later(*next)
                      : s_.guide().challenges()    ? item(*next)
                                                   : act(*next));
    }

private:
    [[nodiscard]] QString amber(const QString& text) const {
        return QStringLiteral("<b style='color:%1'>%2</b>").arg(c_.amber.name(), text);
    }
    [[nodiscard]] QString red(const QString& text) const {
        return QStringLiteral("<b style='color:%1'>%2</b>").arg(c_.of(watch::Colour::red).name(), text);
    }
    [[nodiscard]] QString what(const rehearse::Ask& ask) const { return html::text(rehearse::said(ask, n_)); }
    [[nodiscard]] QString phase(const rehearse::Ask& ask) const {
        return s_.guide().due() ? tr("Done. Next: <b>%1</b> (Ctrl+Page Down).").arg(what(ask))
                                : tr("Nothing to do but watch the needles; next: %1. F8 goes on to it.").arg(what(ask));
    }
    [[nodiscard]] QString wait(const rehearse::Ask& ask) const {
        const QString until = html::text(rehearse::waitsFor(ask, n_));
        QString out = tr("<b>Wait</b> %1").arg(until.isEmpty() ? what(ask) : until);
        if (const auto left = s_.guide().left(s_.rehearsal()))
            out += tr(" (%1 s)").arg(std::ceil(*left));
        return out + QLatin1Char('.');
    }
    [[nodiscard]] QString later(const rehearse::Ask& ask) const {
        QString out = s_.way() == rehearse::Way::challenged ? tr("Nothing to do yet; the next item comes")
                                                            : tr("Nothing to do yet; next: %1,").arg(what(ask));
        if (ask.after)
            out += tr(" after %1 of the phase").arg(q(formatMinutesSeconds(*ask.after)));
        if (ask.above || ask.below)
            out += tr(" at %1").arg(q(format(ask.above.value_or(ask.below.value_or(0)), *n_.cockpit.height)));
        if (out.endsWith(QLatin1Char(',')))
            out.chop(1);
        return out + tr(". F8 goes on to it.");
    }
    [[nodiscard]] QString act(const rehearse::Ask& ask) const {
        QString out = amber(tr("Next: %1").arg(what(ask)));
        if (const QString until = html::text(rehearse::waitsFor(ask, n_)); !until.isEmpty())
            out += QStringLiteral(", ") + until;
        return out + tr(". ") + why(ask);
    }
    [[nodiscard]] QString item(const rehearse::Ask& ask) const {
        const QString who = html::text(rehearse::answers(ask, n_));
        const QString asks =
            tr("<b>%1: %2?</b> ").arg(who.left(1).toUpper() + who.mid(1), html::text(rehearse::challenge(ask, n_)));
        if (s_.guide().wasWrong())
            return asks + amber(tr("No: %1. ").arg(what(ask))) + why(ask);
        const bool second = two_ && !n_.crew.empty() && rehearse::answers(ask, n_) != n_.crew.front();
        return asks + (second ? tr("Put it there, look, and answer with how it stands (R).")
                              : tr("Put it there, look, and answer with how it stands (Enter)."));
    }
    [[nodiscard]] QString why(const rehearse::Ask& ask) const {
        if (!ask.why.empty())
            return html::text(ask.why);
        const auto* step = rehearse::stepOf(n_, ask);
        return step ? html::text(step->why) : QString();
    }
    const rehearse::Session& s_;
    const TypeNotes& n_;
    const Colours& c_;
    bool two_;
};
} // namespace

QString askedWords(const rehearse::Session& session, const Colours& colours, bool two) {
    return Words(session, colours, two).all();
}

} // namespace amber::app
