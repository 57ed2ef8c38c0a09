// SPDX-License-Identifier: GPL-3.0-or-later
#include "shell/find_box.h"
#include "kit/theme.h"
#include <QHeaderView>
#include <QKeyEvent>
#include <QLabel>
#include <QRegularExpression>
#include <QVBoxLayout>
#include <algorithm>

namespace amber::app {
namespace {
constexpr std::size_t mostShown = 60;

QString kindName(Findable::Kind kind) {
    switch (kind) {
    case Findable::Kind::page:
        return FindBox::tr("page");
    case Findable::Kind::figure:
        return FindBox::tr("figure");
    case Findable::Kind::step:
        return FindBox::tr("step");
    case Findable::Kind::act:
        return FindBox::tr("command");
    case Findable::Kind::term:
        return FindBox::tr("term");
    case Findable::Kind::chapter:
        return FindBox::tr("manual");
    }
    return {};
}

bool holds(const QString& text, const QString& word) {
    qsizetype at = -1;
    while ((at = text.indexOf(word, at + 1, Qt::CaseInsensitive)) >= 0)
        if (at == 0 || !text[at - 1].isLetterOrNumber())
            return true;
    return false;
}
} // namespace

std::vector<const Findable*> found(const std::vector<Findable>& all, const QString& typed) {
    const QString whole = typed.simplified();
    const QStringList words = whole.split(QLatin1Char(' '), Qt::SkipEmptyParts);
    std::vector<std::pair<int, const Findable*>> ranked;
    for (const auto& f : all) {
        const auto inTitle = [&](const QString& w) { return holds(f.title, w); };
        const auto anywhere = [&](const QString& w) { return inTitle(w) || holds(f.shown, w) || holds(f.also, w); };
        if (!std::all_of(words.begin(), words.end(), anywhere))
            continue;
        const bool begins = !whole.isEmpty() && (f.title.startsWith(whole, Qt::CaseInsensitive) ||
                                                 f.title.contains(QStringLiteral(" · ") + whole, Qt::CaseInsensitive));
        const int rank = begins ? 0 : std::all_of(words.begin(), words.end(), inTitle) ? 1 : 2;
        ranked.emplace_back(2 * rank + (f.near ? 0 : 1), &f);
    }
    std::stable_sort(ranked.begin(), ranked.end(), [](const auto& a, const auto& b) { return a.first < b.first; });
    std::vector<const Findable*> out;
    for (const auto& [rank, f] : ranked)
        out.push_back(f);
    return out;
}

FindBox::FindBox(std::vector<Findable> all, int width, QWidget* parent) : QDialog(parent), all_(std::move(all)) {
    setObjectName(QStringLiteral("find"));
    setWindowTitle(tr("Find"));
    resize(width, 430);
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(14, 12, 14, 12);
    edit_ = new QLineEdit(this);
    edit_->setObjectName(QStringLiteral("find-edit"));
    edit_->setAccessibleName(tr("Find"));
    edit_->setFont(face(17));
    edit_->setPlaceholderText(tr("A page, figure, step, command or term: “blower”, “mag drop”, “glide”"));
    edit_->installEventFilter(this);
    list_ = new QTreeWidget(this);
    list_->setObjectName(QStringLiteral("find-list"));
    list_->setAccessibleName(tr("Found"));
    list_->setFont(face(14));
    list_->setColumnCount(3);
    list_->setHeaderHidden(true);
    list_->setRootIsDecorated(false);
    list_->setUniformRowHeights(true);
    list_->setFocusPolicy(Qt::NoFocus);
    list_->header()->setStretchLastSection(false);
    list_->header()->setSectionResizeMode(1, QHeaderView::Stretch);
    list_->setColumnWidth(0, width * 38 / 100);
    list_->setColumnWidth(2, 92);
    auto* hint = new QLabel(tr("Up, Down: choose. Enter: go there. Escape: back."), this);
    hint->setFont(face(13));
    column->addWidget(edit_);
    column->addWidget(list_, 1);
    column->addWidget(hint);
    connect(edit_, &QLineEdit::textChanged, this, &FindBox::refresh);
    connect(edit_, &QLineEdit::returnPressed, this, &FindBox::go);
    connect(list_, &QTreeWidget::itemClicked, this, &FindBox::go);
    refresh();
    edit_->setFocus();
}

void FindBox::refresh() {
    found_ = found(all_, edit_->text());
    if (found_.size() > mostShown)
        found_.resize(mostShown);
    list_->clear();
    for (const auto* f : found_) {
        auto* item = new QTreeWidgetItem(list_, {f->title, f->shown, kindName(f->kind)});
        item->setToolTip(0, f->title);
        item->setToolTip(1, f->shown);
    }
    if (found_.empty()) {
        auto* none = new QTreeWidgetItem(list_, {tr("Nothing by that name. Try one word of it, or the field's term.")});
        none->setFlags(Qt::NoItemFlags);
        none->setFirstColumnSpanned(true);
    } else
        list_->setCurrentItem(list_->topLevelItem(0));
}

void FindBox::go() {
    const int row = list_->indexOfTopLevelItem(list_->currentItem());
    if (row < 0 || row >= static_cast<int>(found_.size()))
        return;
    const auto to = found_[static_cast<std::size_t>(row)]->go;
    accept();
    if (to)
        to();
}

bool FindBox::eventFilter(QObject* watched, QEvent* event) {
    if (watched == edit_ && event->type() == QEvent::KeyPress) {
        const int key = static_cast<QKeyEvent*>(event)->key(), last = static_cast<int>(found_.size()) - 1;
        const int by = key == Qt::Key_Down       ? 1
                       : key == Qt::Key_Up       ? -1
                       : key == Qt::Key_PageDown ? 10
                       : key == Qt::Key_PageUp   ? -10
                                                 : 0;
        if (by != 0) {
            if (last >= 0)
                list_->setCurrentItem(
                    list_->topLevelItem(std::clamp(list_->indexOfTopLevelItem(list_->currentItem()) + by, 0, last)));
            return true;
        }
    }
    return QDialog::eventFilter(watched, event);
}

} // namespace amber::app
