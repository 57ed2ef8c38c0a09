// SPDX-License-Identifier: GPL-3.0-or-later
#include "store/teaching.h"
#include "files/document.h"
#include "record/write_up.h"
#include "sortie/airframe_file.h"
#include "store/sortie_document.h"
#include <filesystem>

namespace amber::app {

Teaching::Teaching(record::Log log, const flight::LoadedSortie& now, std::string sortiePath)
    : log_(std::move(log)), aircraft_(now.aircraft), airframe_(now.sortie->airframe.registration),
      model_(powerplant::markOfModel(*now.aircraft)) {
    if (!now.sortie->airframe.file.empty())
        file_ = airframePathOf(*now.sortie, sortiePath);
    for (const auto& [id, run] : log_.runs)
        if (run.airframe == airframe_)
            order_.push_back(&run);
    planner_ = [flown = record::flownOf()](const record::Run& run) -> std::optional<plan::Plan> {
        const auto then = flown(run);
        return then ? std::optional(plan::makePlan(*then->aircraft, then->sortie)) : std::nullopt;
    };
}

bool Teaching::next() {
    if (planned_ < order_.size()) {
        const auto& run = *order_[planned_++];
        if (auto plan = planner_(run))
            plans_.emplace(run.id, std::move(*plan));
    }
    return planned_ < order_.size();
}

std::vector<record::Lesson> Teaching::lessons() const {
    return record::lessonsOf(log_, airframe_, aircraft_->notes, model_, [this](const record::Run& run) {
        const auto found = plans_.find(run.id);
        return found == plans_.end() ? nullptr : &found->second;
    });
}

std::vector<LearntLine> Teaching::lines() const {
    Problems problems;
    const auto text = file_.empty() ? std::nullopt : document::readFile(file_, problems);
    const auto read = text ? readAirframe(*text, file_) : AirframeReading{};
    return read.facts ? read.facts->learnt : std::vector<LearntLine>{};
}

QString Teaching::answer(const record::Lesson& lesson, bool accepted, const QString& day, const QString& who) {
    if (file_.empty())
        return QStringLiteral("This sortie names its notes itself: what is learnt is kept in an airframe's own file, "
                              "which the sortie names with file under [airframe].");
    Problems problems;
    const auto text = document::readFile(file_, problems);
    if (!text)
        return QString::fromStdString(problems.front().text());
    const auto read = readAirframe(*text, file_);
    if (!read.facts)
        return QString::fromStdString(read.problems.front().text());
    const auto changed = withLearnt(
        *text, file_,
        record::answered(read.facts->learnt, lesson, accepted, day.toStdString(), who.trimmed().toStdString()));
    if (!changed)
        return QString::fromStdString(changed.error());
    return writeAtomically(QString::fromStdString(file_), QByteArray::fromStdString(changed.value()));
}

} // namespace amber::app
