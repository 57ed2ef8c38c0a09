// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "kit/inline_field.h"
#include "store/sortie_document.h"
#include <QComboBox>
#include <QWidget>
#include <functional>
#include <string>
#include <string_view>
#include <vector>

namespace amber::app {

/// The fields beside a phase's title: each says where it is wanted, and only those that show are kept up to date.
class FieldRow : public QWidget {
    Q_OBJECT
public:
    explicit FieldRow(SortieDocument& document, QWidget* parent = nullptr);
    /// The fields of a phase on one of its pages.
    void show(Phase phase, std::string_view page);

signals:
    void refused(QString why);

private:
    struct Where {
        std::vector<Phase> phases;
        std::vector<std::string_view> notOn{};  ///< pages of these phases that have no use for it
        std::function<bool()> when{};           ///< and this holds
        std::vector<std::string_view> onlyOn{}; ///< pages that alone have a use for it; empty: all
    };
    struct Place {
        QWidget* widget;
        InlineField* field; ///< null: a choice
        Where where;
    };
    void add(InlineField* field, const QString& hint, Where where);
    void add(const QString& caption, QComboBox* box, Where where);
    QComboBox* choice(const char* name, const QStringList& items, const QString& hint, const QString& what,
                      std::function<void(Sortie&, int)> put);
    [[nodiscard]] QComboBox* ratingChoice(const QString& name, std::string Flight::*place);
    void take(const Sortie& changed, const QString& what);
    [[nodiscard]] bool wanted(const Where& where, Phase phase, std::string_view page) const;
    [[nodiscard]] const Tank* tankOf(std::size_t field) const;
    void refreshTanks();
    void buildFlight();
    void buildStart();
    void buildCruise();
    void buildGround();
    void buildLoad();
    /// A field whose text is read by `take` into a copy of the sortie; it says why not, or nothing.
    void words(const QString& caption, const QString& name, const QString& what, const QString& hint,
               std::function<QString()> show, std::function<QString(Sortie&, const QString&)> take, Where where);

    SortieDocument& document_;
    std::vector<Place> places_;
    std::vector<std::pair<QComboBox*, std::string Flight::*>> ratings_;
    std::vector<std::pair<InlineField*, std::size_t>> tankFields_, stationFields_;
    QComboBox *supply_, *diluted_, *blanks_, *tankChoice_;
    Phase phase_ = Phase::climb;
    std::string_view page_ = "settings";
};

} // namespace amber::app
