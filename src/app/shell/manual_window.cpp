// SPDX-License-Identifier: GPL-3.0-or-later
#include "shell/manual_window.h"
#include "kit/theme.h"
#include <QAbstractTextDocumentLayout>
#include <QDialogButtonBox>
#include <QFile>
#include <QHBoxLayout>
#include <QLabel>
#include <QPushButton>
#include <QScrollBar>
#include <QTextBlock>
#include <QTextList>
#include <QTextTable>
#include <QVBoxLayout>

namespace amber::app {
namespace {
/// Pictures no wider than the page.
class Reader : public QTextBrowser {
public:
    using QTextBrowser::QTextBrowser;

protected:
    QVariant loadResource(int type, const QUrl& name) override {
        if (type != QTextDocument::ImageResource)
            return QTextBrowser::loadResource(type, name);
        const QImage image(QStringLiteral(":/manual/") + name.fileName());
        const int wide = std::max(200, viewport()->width() - 40);
        return image.width() > wide ? QVariant(image.scaledToWidth(wide, Qt::SmoothTransformation)) : QVariant(image);
    }
    void doSetSource(const QUrl& url, QTextDocument::ResourceType) override {
        // A link names another chapter: "record.md", "glossary.md".
        if (url.fileName().endsWith(QLatin1String(".md")))
            if (auto* manual = qobject_cast<ManualWindow*>(window()))
                manual->openAt(url.fileName().chopped(3));
    }
};

/// Headings of a size beside the text, room above them; tables without a frame round every cell.
void dress(QTextDocument& document) {
    for (QTextBlock block = document.begin(); block.isValid(); block = block.next()) {
        QTextCursor cursor(block);
        const int level = block.blockFormat().headingLevel();
        QTextBlockFormat format = block.blockFormat();
        if (level > 0) {
            cursor.movePosition(QTextCursor::EndOfBlock, QTextCursor::KeepAnchor);
            QTextCharFormat letters;
            letters.setFont(face(level == 1 ? 23 : 17, true));
            cursor.mergeCharFormat(letters);
            format.setTopMargin(level == 1 ? 0 : 16);
            format.setBottomMargin(4);
            cursor.setBlockFormat(format);
        } else if (!cursor.currentTable()) {
            format.setBottomMargin(block.textList() ? 4 : 8);
            cursor.setBlockFormat(format);
        }
        if (auto* table = cursor.currentTable(); table && table->format().border() > 0) {
            QTextTableFormat lines = table->format();
            lines.setBorder(0);
            lines.setCellSpacing(0);
            lines.setCellPadding(5);
            lines.setWidth(QTextLength(QTextLength::PercentageLength, 100));
            if (table->columns() == 3)
                lines.setColumnWidthConstraints({QTextLength(QTextLength::PercentageLength, 24),
                                                 QTextLength(QTextLength::PercentageLength, 54),
                                                 QTextLength(QTextLength::PercentageLength, 22)});
            table->setFormat(lines);
        }
    }
}
} // namespace

const std::vector<Chapter>& chapters() {
    static const std::vector<Chapter> all{
        {"first-sortie", QT_TR_NOOP("A first sortie in ten minutes")},
        {"by-the-clock", QT_TR_NOOP("A flight by the clock")},
        {"rehearse", QT_TR_NOOP("Rehearse")},
        {"record", QT_TR_NOOP("Record, and the engineer")},
        {"aloft", QT_TR_NOOP("Flown by the clock")},
        {"own-aircraft", QT_TR_NOOP("Your own aircraft in an hour")},
        {"pages", QT_TR_NOOP("Every page in a paragraph")},
        {"model", QT_TR_NOOP("The engine model, and what it cannot do")},
        {"glossary", QT_TR_NOOP("Glossary")},
        {"cautions", QT_TR_NOOP("Cautions")},
    };
    return all;
}

QString chapterText(const QString& key) {
    QFile file(QStringLiteral(":/manual/") + key + QStringLiteral(".md"));
    return file.open(QIODevice::ReadOnly) ? QString::fromUtf8(file.readAll()) : QString();
}

ManualWindow::ManualWindow(QSize size, QWidget* parent) : QDialog(parent) {
    setObjectName(QStringLiteral("manual"));
    setWindowTitle(tr("Manual"));
    resize(size);
    auto* outer = new QVBoxLayout(this);
    outer->setContentsMargins(16, 12, 16, 12);
    auto* top = new QHBoxLayout;
    auto* label = new QLabel(tr("&Search"), this);
    label->setFont(face(14));
    search_ = new QLineEdit(this);
    search_->setObjectName(QStringLiteral("manual-search"));
    search_->setFont(face(14));
    search_->setPlaceholderText(tr("A word, then Enter: the next place, in this chapter and the others"));
    label->setBuddy(search_);
    top->addWidget(label);
    top->addWidget(search_, 1);
    outer->addLayout(top);
    auto* middle = new QHBoxLayout;
    list_ = new QListWidget(this);
    list_->setObjectName(QStringLiteral("manual-chapters"));
    list_->setAccessibleName(tr("Chapters"));
    list_->setFont(face(14));
    list_->setFixedWidth(270);
    list_->setWordWrap(true);
    list_->setSpacing(3);
    for (const auto& c : chapters())
        list_->addItem(tr(c.title));
    text_ = new Reader(this);
    text_->setObjectName(QStringLiteral("manual-text"));
    text_->setAccessibleName(tr("Text of the chapter"));
    text_->setFont(face(15));
    text_->document()->setDocumentMargin(16);
    text_->setOpenExternalLinks(false);
    middle->addWidget(list_);
    middle->addWidget(text_, 1);
    outer->addLayout(middle, 1);
    auto* buttons = new QDialogButtonBox(this);
    auto* close = buttons->addButton(tr("&Close"), QDialogButtonBox::RejectRole);
    close->setAutoDefault(false);
    close->setFont(face(14));
    connect(buttons, &QDialogButtonBox::rejected, this, &QDialog::reject);
    outer->addWidget(buttons);
    connect(list_, &QListWidget::currentRowChanged, this, [this](int row) {
        if (row < 0)
            return;
        text_->setMarkdown(chapterText(QLatin1String(chapters()[static_cast<std::size_t>(row)].key)));
        dress(*text_->document());
    });
    connect(search_, &QLineEdit::returnPressed, this, [this] { search(search_->text()); });
    list_->setCurrentRow(0);
}

QString ManualWindow::chapter() const {
    return QLatin1String(chapters()[static_cast<std::size_t>(std::max(0, list_->currentRow()))].key);
}

QString ManualWindow::atTop() const {
    return text_->cursorForPosition(QPoint(30, 24)).block().text();
}

bool ManualWindow::openAt(const QString& chapter, const QString& heading) {
    const auto& all = chapters();
    const auto found =
        std::find_if(all.begin(), all.end(), [&](const Chapter& c) { return chapter == QLatin1String(c.key); });
    if (found == all.end())
        return false;
    list_->setCurrentRow(static_cast<int>(found - all.begin()));
    auto* bar = text_->verticalScrollBar();
    bar->setValue(0);
    if (heading.isEmpty())
        return true;
    for (QTextBlock block = text_->document()->begin(); block.isValid(); block = block.next())
        if ((block.blockFormat().headingLevel() > 0 ||
             block.begin().fragment().charFormat().fontWeight() >= QFont::Bold || QTextCursor(block).currentTable()) &&
            block.text().compare(heading, Qt::CaseInsensitive) == 0) {
            text_->setTextCursor(QTextCursor(block));
            const double top = text_->document()->documentLayout()->blockBoundingRect(block).top();
            bar->setValue(std::max(0, static_cast<int>(top) - 8));
            return true;
        }
    return false;
}

void ManualWindow::search(const QString& words) {
    if (words.trimmed().isEmpty())
        return;
    // On from here; then through the other chapters, round to this one again.
    const int here = list_->currentRow(), count = list_->count();
    if (text_->find(words))
        return;
    for (int step = 1; step <= count; ++step) {
        list_->setCurrentRow((here + step) % count);
        text_->moveCursor(QTextCursor::Start);
        if (text_->find(words))
            return;
    }
    search_->selectAll();
}

} // namespace amber::app
