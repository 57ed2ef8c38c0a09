// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "flight/open_files.h"
#include "record/lessons.h"
#include <QString>
#include <map>
#include <memory>
#include <string>
#include <vector>

namespace amber::app {

/// What a log teaches of one airframe, and what is answered to it in the airframe's own file. Every run that holds its
/// sortie is planned anew by the models of today; that is done run by run, so that a window can go on between.
class Teaching {
public:
    /// @param log runs of the airframe, the latest: older ones count for next to nothing
    /// @param now a sortie of it as it is: its notes, its file
    Teaching(record::Log log, const flight::LoadedSortie& now, std::string sortiePath);
    Teaching(Teaching&&) = default;
    Teaching(const Teaching&) = delete; // the order of its runs points into its own log
    Teaching& operator=(Teaching&&) = delete;
    static constexpr int latestRuns = 100;

    /// Plans the next run. @return whether there are more
    bool next();
    [[nodiscard]] std::size_t done() const { return planned_; }
    [[nodiscard]] std::size_t of() const { return order_.size(); }

    /// When all are planned: what there is to learn, and what was said to it before.
    [[nodiscard]] std::vector<record::Lesson> lessons() const;
    [[nodiscard]] std::vector<LearntLine> lines() const;
    /// The airframe's file, whole path; empty: the sortie names its notes itself, and there is no place for an answer.
    [[nodiscard]] const std::string& file() const { return file_; }
    /// Writes an answer into the airframe's file; nothing else in it changes. @return why not, or empty
    QString answer(const record::Lesson& lesson, bool accepted, const QString& day, const QString& who);

private:
    record::Log log_;
    std::shared_ptr<const powerplant::Aircraft> aircraft_;
    std::string airframe_, file_, model_;
    std::vector<const record::Run*> order_;
    std::size_t planned_ = 0;
    std::function<std::optional<plan::Plan>(const record::Run&)> planner_;
    std::map<std::string, plan::Plan> plans_; ///< by run
};

} // namespace amber::app
