// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once
#include "pages/trouble_page.h"
#include "symptoms/symptoms.h"
#include <QComboBox>
#include <QPushButton>
#include <QToolButton>
#include <vector>

namespace amber::app {

/// What is seen, heard, felt and smelt, and what the needles do, chosen in combination; causes ranked by fit, the act
/// for the worst plausible one first.
class SymptomsPage : public TroublePage {
    Q_OBJECT
public:
    SymptomsPage(SortieDocument& document, QWidget* parent);
    void present(const TroubleMoment& moment) override;
    [[nodiscard]] QWidget* first() override;
    [[nodiscard]] std::vector<Sign> noticed() const;
    void notice(const std::vector<Sign>& signs);
    [[nodiscard]] const trouble::Diagnosis& diagnosis() const { return diagnosis_; }

signals:
    void drillWanted(Emergency emergency);

protected:
    void widen() override;

private:
    void build();
    void refresh();
    struct Needle {
        Gauge gauge;
        QComboBox* way;
    };
    struct Button {
        Felt felt;
        QToolButton* button;
    };
    QBoxLayout* halves_;
    QWidget* choices_ = nullptr;
    QVBoxLayout* left_;
    std::string built_; ///< the type and the stage that the choices are of
    std::vector<Needle> needles_;
    std::vector<Button> buttons_;
    RichLabel *act_, *tell_;
    FiguresView* causes_;
    QPushButton *drill_, *clear_;
    trouble::Context context_;
    trouble::Diagnosis diagnosis_;
};

} // namespace amber::app
