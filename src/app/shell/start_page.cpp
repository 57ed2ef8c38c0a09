// SPDX-License-Identifier: GPL-3.0-or-later
#include "shell/start_page.h"
#include "kit/theme.h"
#include <QDir>
#include <QFileInfo>
#include <QGridLayout>
#include <QLabel>
#include <QPushButton>
#include <QVBoxLayout>

namespace amber::app {
namespace {
constexpr int widestStart = 860, earlierShown = 5; // px; sorties
}

StartPage::StartPage(Ways ways, QWidget* parent) : QWidget(parent), ways_(std::move(ways)) {
    setObjectName(QStringLiteral("start-page"));
    auto* across = new QHBoxLayout(this);
    across->setContentsMargins(24, 20, 24, 16);
}

void StartPage::show(const QStringList& recent, const QString& kept, const QString& settings) {
    delete body_;
    body_ = new QWidget(this);
    body_->setMaximumWidth(widestStart);
    static_cast<QHBoxLayout*>(layout())->addWidget(body_);
    auto* column = new QVBoxLayout(body_);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(8);
    const auto words = [&](const QString& text, const QFont& font, bool faint = false) {
        auto* label = new QLabel(text, body_);
        label->setTextFormat(Qt::PlainText);
        label->setFont(font);
        label->setWordWrap(true);
        if (faint)
            label->setForegroundRole(QPalette::PlaceholderText);
        column->addWidget(label);
        return label;
    };
    column->addStretch(1);
    words(tr("Amber Throttle"), face(30, true));
    words(tr("Engine settings of period piston aircraft: plan them for today, rehearse them, record what the engines "
             "did."),
          face(16));
    column->addSpacing(10);

    auto* grid = new QGridLayout;
    grid->setHorizontalSpacing(16);
    grid->setVerticalSpacing(8);
    grid->setColumnStretch(1, 1);
    QPushButton* first = nullptr;
    const auto way = [&](const char* name, const QString& title, const QString& what, const std::function<void()>& go) {
        auto* button = new QPushButton(title, body_);
        button->setObjectName(QLatin1String(name));
        button->setFont(face(15, true));
        button->setMinimumHeight(36);
        button->setMinimumWidth(230);
        auto* told = new QLabel(what, body_);
        told->setFont(face(14));
        told->setWordWrap(true);
        const int row = grid->rowCount();
        grid->addWidget(button, row, 0);
        grid->addWidget(told, row, 1);
        connect(button, &QPushButton::clicked, this, [go] { go(); });
        if (!first)
            first = button;
    };
    if (!recent.isEmpty())
        way("start-last", tr("&Last sortie"), QFileInfo(recent.front()).completeBaseName(),
            [this, path = recent.front()] { ways_.open(path); });
    way("start-demo", tr("&Demo sortie"), tr("Two radials on a cool spring morning. Everything in it is invented."),
        ways_.demo);
    way("start-new", tr("&New sortie…"), tr("From the notes of a type."), ways_.newSortie);
    way("start-open", tr("&Open sortie…"), tr("A file that was saved before."), ways_.openFile);
    way("start-rehearse", tr("&Rehearse a start"), tr("The demo's engines, guided: each act and its reason."),
        ways_.rehearse);
    way("start-own", tr("Your own &aircraft"), tr("From its booklet to notes that compute, in an hour."),
        ways_.ownAircraft);
    way("start-manual", tr("&Manual"), tr("A first sortie in ten minutes; every page; what the model cannot do."),
        ways_.manual);
    column->addLayout(grid);

    if (recent.size() > 1) {
        column->addSpacing(8);
        words(tr("Earlier sorties"), captionFace(), true);
        for (qsizetype i = 1; i < std::min<qsizetype>(recent.size(), earlierShown + 1); ++i) {
            auto* button = new QPushButton(QFileInfo(recent[i]).completeBaseName(), body_);
            button->setFont(face(14));
            button->setFlat(true);
            button->setToolTip(recent[i]);
            button->setStyleSheet(QStringLiteral("QPushButton { text-align: left; }"));
            connect(button, &QPushButton::clicked, this, [this, path = recent[i]] { ways_.open(path); });
            column->addWidget(button);
        }
    }
    column->addSpacing(12);
    words(tr("Sorties are kept where you save them. Log, practice and unsaved work: %1. Settings: %2.")
              .arg(QDir::toNativeSeparators(kept), QDir::toNativeSeparators(settings)),
          face(13), true);
    words(tr("It plans, teaches and records. Approved flight manuals, placards, local rules and licensed engineers "
             "come first."),
          face(13), true);
    column->addStretch(2);
    body_->show();
    if (first)
        first->setFocus();
}

} // namespace amber::app
