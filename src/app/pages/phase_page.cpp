// SPDX-License-Identifier: GPL-3.0-or-later
#include "pages/phase_page.h"
#include "kit/captioned.h"
#include "kit/html.h"
#include "kit/rich_label.h"
#include "kit/theme.h"
#include "kit/words.h"
#include <QHBoxLayout>
#include <QSignalBlocker>
#include <QVBoxLayout>
#include <algorithm>

namespace amber::app {
PhasePage::PhasePage(SortieDocument& document, QWidget* parent) : QWidget(parent), document_(document) {
    setObjectName(QStringLiteral("phase-page"));
    auto* page = new QVBoxLayout(this);
    page->setContentsMargins(20, 8, 20, 8);
    page->setSpacing(6);

    auto* head = new QHBoxLayout;
    head->setSpacing(12);
    title_ = new QLabel(this);
    title_->setObjectName(QStringLiteral("phase-title"));
    title_->setFont(face(25, true));
    headline_ = new QLabel(this);
    headline_->setObjectName(QStringLiteral("headline"));
    headline_->setTextFormat(Qt::PlainText);
    headline_->setFont(face(14));
    headline_->setContentsMargins(0, 0, 0, 4);
    headline_->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Preferred);
    headline_->setForegroundRole(QPalette::PlaceholderText);
    head->addWidget(title_, 0, Qt::AlignBottom);
    head->addWidget(headline_, 1, Qt::AlignBottom);
    fields_ = new FieldRow(document_, this);
    head->addWidget(fields_, 0);
    choice_ = new QComboBox(this);
    choice_->setObjectName(QStringLiteral("page-choice"));
    choice_->setToolTip(tr("The pages of this phase (Ctrl+Space: next)"));
    choiceHolder_ = captioned(tr("Page"), choice_, this);
    choiceHolder_->hide();
    head->addWidget(choiceHolder_, 0, Qt::AlignBottom);
    page->addLayout(head);
    // Where the fields leave it no room beside the title, the headline has a line of its own.
    headlineBelow_ = new QLabel(this);
    headlineBelow_->setObjectName(QStringLiteral("headline-below"));
    headlineBelow_->setTextFormat(Qt::PlainText);
    headlineBelow_->setFont(face(14));
    headlineBelow_->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Preferred);
    headlineBelow_->setForegroundRole(QPalette::PlaceholderText);
    headlineBelow_->hide();
    page->addWidget(headlineBelow_);

    notices_ = new RichLabel(this);
    notices_->setObjectName(QStringLiteral("notices"));
    notices_->setFont(face(13));
    page->addWidget(notices_);

    body_ = new QWidget(this);
    auto* body = new QVBoxLayout(body_);
    body->setContentsMargins(0, 0, 0, 0);
    scroll_ = new PageScroll(this);
    scroll_->hold(body_);
    page->addWidget(scroll_, 1);

    connect(choice_, &QComboBox::activated, this,
            [this](int index) { showPage(pagesOf(phase_, document_).at(static_cast<std::size_t>(index))->key); });
    connect(fields_, &FieldRow::refused, this, &PhasePage::refused);
}

const PageRow& PhasePage::row() const {
    const auto pages = pagesOf(phase_, document_);
    const auto wanted = chosen_.find(phase_);
    if (wanted != chosen_.end())
        for (const auto* page : pages)
            if (page->key == wanted->second)
                return *page;
    return *pages.front();
}

Page* PhasePage::made(std::string_view key) {
    if (const auto found = pages_.find(key); found != pages_.end())
        return found->second;
    for (const auto& row : pageTable())
        if (row.key == key) {
            auto* page = row.make(document_, body_);
            page->hide();
            body_->layout()->addWidget(page);
            connect(page, &Page::refused, this, &PhasePage::refused);
            connect(page, &Page::placeWanted, this, [this, page](QRect place) {
                if (page != current_)
                    return;
                const QPoint at = page->mapTo(body_, place.center());
                scroll_->ensureVisible(at.x(), at.y(), 0, place.height() / 2 + 8);
            });
            pages_[row.key] = page;
            return page;
        }
    return nullptr;
}

void PhasePage::exchange() {
    auto* wanted = made(row().key);
    if (wanted == current_)
        return;
    // What goes is hidden before what comes is shown: both at once would widen the window.
    if (current_)
        current_->hide();
    current_ = wanted;
    current_->show();
    scroll_->ensureVisible(0, 0, 0, 0);
}

void PhasePage::show(Phase phase) {
    phase_ = phase;
    refresh();
    if (current_)
        current_->enter();
}

void PhasePage::showPage(std::string_view key) {
    for (const auto* page : pagesOf(phase_, document_))
        if (page->key == key) {
            chosen_[phase_] = page->key;
            refresh();
            return;
        }
}

void PhasePage::nextPage() {
    const auto pages = pagesOf(phase_, document_);
    const auto here = std::find(pages.begin(), pages.end(), &row());
    showPage((here + 1 == pages.end() ? pages.front() : *(here + 1))->key);
}

void PhasePage::refresh() {
    if (!document_.isOpen())
        return;
    title_->setText(QString::fromUtf8(titleOf(phase_).data()));
    headlineText_ = q(document_.plan()[phase_].headline) + tr("  (model)");
    showNotices();
    exchange();
    fields_->show(phase_, row().key);
    showPageChoice();
    placeHeadline();
    current_->present(phase_);
}

void PhasePage::showNotices() {
    const plan::PhasePlan& p = document_.plan()[phase_];
    const Colours c(this);
    QStringList lines;
    if (!p.spoken.empty())
        lines << QStringLiteral("<b>%1</b> %2 (%3)")
                     .arg(tr("Say aloud:"), html::text(p.spoken), html::text(markOf(Origin::model)));
    for (const auto& caution : p.cautions)
        lines << QStringLiteral("<b>%1</b> %2").arg(tr("Caution:"), html::text(caution));
    for (const auto& r : p.remarks)
        if (phase_ != Phase::walkRound ||
            r.verdict.colour() == watch::Colour::red) // the others are listed as written up
            lines << QStringLiteral("%1 %2").arg(html::mark(r.verdict, c), html::text(r.verdict.sentence()));
    // What engines' needles show where the log has taught that they stand off the model's figure.
    QStringList needles;
    for (const auto& e : p.expect)
        for (const auto& needle : e.needles)
            needles << tr("%1, %2 %3").arg(html::text(e.title), html::text(needle.name), html::text(needle.text));
    if (!needles.isEmpty())
        lines << QStringLiteral("<b>%1</b> %2 (%3)")
                     .arg(tr("Needles:"), needles.join(QStringLiteral("; ")), html::text(markOf(Origin::logged)));
    for (const auto& e : p.expect)
        if (e.verdict.colour() != watch::Colour::normal)
            lines << QStringLiteral("%1 %2").arg(html::mark(e.verdict, c), html::text(e.verdict.sentence()));
    for (const auto& k : p.clocks)
        if (k.verdict.colour() != watch::Colour::normal)
            lines << QStringLiteral("%1 %2: %3").arg(html::mark(k.verdict, c), html::text(k.what), html::text(k.why));
    notices_->setText(lines.join(QStringLiteral("<br>")));
    notices_->setVisible(!lines.isEmpty());
}

void PhasePage::showPageChoice() {
    const auto pages = pagesOf(phase_, document_);
    choiceHolder_->setVisible(pages.size() > 1);
    QStringList titles;
    for (const auto* page : pages)
        titles << tr(page->title);
    const QSignalBlocker quiet(choice_);
    QStringList shown;
    for (int i = 0; i < choice_->count(); ++i)
        shown << choice_->itemText(i);
    if (shown != titles) {
        choice_->clear();
        choice_->addItems(titles);
    }
    choice_->setCurrentIndex(static_cast<int>(std::find(pages.begin(), pages.end(), &row()) - pages.begin()));
}

void PhasePage::focusColumn(const QString& name) {
    if (auto* column = current_ ? current_->findChild<QWidget*>(name) : nullptr)
        column->setFocus(Qt::ShortcutFocusReason);
}

void PhasePage::placeHeadline() {
    const QFontMetrics metrics(headline_->font());
    const int fields =
        fields_->sizeHint().width() + (choiceHolder_->isHidden() ? 0 : choiceHolder_->sizeHint().width() + 12);
    const int inner = width() - layout()->contentsMargins().left() - layout()->contentsMargins().right();
    const int beside = inner - title_->sizeHint().width() - fields - 2 * 12;
    const bool fits = metrics.horizontalAdvance(headlineText_) <= beside;
    headline_->setText(fits ? headlineText_ : QString());
    headlineBelow_->setText(metrics.elidedText(headlineText_, Qt::ElideRight, inner));
    for (auto* label : {headline_, headlineBelow_})
        label->setToolTip(headlineText_);
    headlineBelow_->setVisible(!fits);
}

void PhasePage::resizeEvent(QResizeEvent* event) {
    QWidget::resizeEvent(event);
    if (document_.isOpen())
        placeHeadline();
}

} // namespace amber::app
