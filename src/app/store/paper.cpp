// SPDX-License-Identifier: GPL-3.0-or-later
#include "store/paper.h"
#include <QDir>
#include <QFileInfo>
#include <QImageReader>
#include <QProcess>
#include <csignal>
#include <cstring>
#include <fmt/format.h>
#include <poppler-qt6.h>
#include <sys/resource.h>

namespace amber::app {
namespace {
Paper refused(std::string why) {
    Paper out;
    out.wrong = std::move(why);
    return out;
}
std::string tooLarge(double width, double height) {
    return fmt::format(
        "the page has {:.0f} by {:.0f} pixels; 100 million in all are read: scan it at 200 to 300 dots an inch", width,
        height);
}
measure::Raster greyOf(const QImage& image) {
    const QImage grey = image.convertToFormat(QImage::Format_Grayscale8);
    measure::Raster out(grey.width(), grey.height());
    for (int y = 0; y < grey.height(); ++y)
        std::memcpy(&out.grey[out.index(0, y)], grey.constScanLine(y), static_cast<std::size_t>(grey.width()));
    return out;
}
Paper fromPdf(const QString& file, int number) {
    const auto document = Poppler::Document::load(file);
    if (!document)
        return refused("it is damaged, or no PDF: save it again with the program that made it");
    if (document->isLocked())
        return refused("it is locked by a password: save a copy without");
    Paper out;
    out.pages = document->numPages();
    if (number > out.pages)
        return refused(fmt::format("it has {} {}", out.pages, out.pages == 1 ? "page" : "pages"));
    const auto page = document->page(number - 1);
    if (!page)
        return refused("that page cannot be read");
    const QSizeF size = page->pageSizeF() * (pdfDots / 72.0);
    if (!(size.width() >= 1 && size.height() >= 1))
        return refused("that page has no size");
    if (size.width() * size.height() > mostPixels)
        return refused(tooLarge(size.width(), size.height()));
    const QImage image = page->renderToImage(pdfDots, pdfDots);
    if (image.isNull())
        return refused("that page cannot be drawn");
    out.page = greyOf(image);
    return out;
}
} // namespace

Paper decodePaper(const QString& file, int number) {
    if (!QFileInfo(file).isFile())
        return refused("there is no such file");
    if (number < 1)
        return refused("pages are counted from 1");
    QFile begins(file);
    if (!begins.open(QIODevice::ReadOnly))
        return refused("it cannot be read: " + begins.errorString().toStdString());
    if (begins.peek(1024).contains("%PDF-"))
        return fromPdf(file, number);
    begins.close();
    QImageReader reader(file);
    reader.setDecideFormatFromContent(true);
    reader.setAutoTransform(true);
    if (!reader.canRead())
        return refused(
            "it is no picture that is read here: PNG, JPEG, PDF, or TIFF (with the package qt6-image-formats-plugins)");
    Paper out;
    out.pages = std::max(1, reader.imageCount());
    if (number > out.pages)
        return refused(fmt::format("it has {} {}", out.pages, out.pages == 1 ? "page" : "pages"));
    if (number > 1 && !reader.jumpToImage(number - 1))
        return refused("that page cannot be reached");
    const QSize size = reader.size();
    if (!size.isValid())
        return refused("it does not say how large it is");
    if (static_cast<double>(size.width()) * size.height() > mostPixels)
        return refused(tooLarge(size.width(), size.height()));
    QImageReader::setAllocationLimit(512); // MB
    const QImage image = reader.read();
    if (image.isNull())
        return refused("it is damaged: " + reader.errorString().toStdString());
    out.page = greyOf(image);
    return out;
}

void limitThisProcess() {
    const auto set = [](auto what, rlim_t most) {
        rlimit limit{most, most};
        setrlimit(what, &limit);
    };
    set(RLIMIT_CPU, decodeSeconds);
    set(RLIMIT_CORE, 0);
#if !defined(__SANITIZE_ADDRESS__) && !(defined(__has_feature) && __has_feature(address_sanitizer))
    set(RLIMIT_AS, decodeBytes); // a sanitizer's shadow takes more than any limit
#endif
}

Paper readPaper(const QString& file, int number, const std::function<bool()>& stop) {
    QString program = QFile::symLinkTarget(QStringLiteral("/proc/self/exe"));
    if (QFileInfo(program).fileName() != QLatin1String("amber-throttle")) // a test, beside which the program lies
        program = QFileInfo(program).dir().absoluteFilePath(QStringLiteral("../src/app/amber-throttle"));
    QProcess child;
    child.setProgram(program);
    child.setArguments({QStringLiteral("booklet"), QStringLiteral("picture"), QFileInfo(file).absoluteFilePath(),
                        QStringLiteral("--page"), QString::number(number)});
    child.start(QIODevice::ReadOnly);
    if (!child.waitForStarted())
        return refused("the program that reads pictures cannot be started: " + child.errorString().toStdString());
    // A page that takes longer by the clock than by its processor has not got one; it may wait three times as long.
    int tenths = decodeSeconds * 30;
    for (; child.state() != QProcess::NotRunning; child.waitForFinished(100))
        if ((stop && stop()) || --tenths <= 0) {
            child.kill();
            child.waitForFinished();
            return refused(tenths <= 0 ? "reading it did not end" : "stopped");
        }
    const QByteArray said = child.readAllStandardError().trimmed();
    if (child.exitStatus() != QProcess::NormalExit || child.exitCode() != 0) {
        const QByteArray refusal = QByteArray::fromRawData(paperRefused.data(), paperRefused.size());
        const auto mark = said.lastIndexOf(refusal);
        return refused(mark >= 0 ? said.mid(mark + refusal.size()).toStdString()
                                 : "reading it brought the reader down: it is damaged, or made to do harm");
    }
    // "P5\n# pages N\nW H\n255\n" and the grey
    const QByteArray all = child.readAllStandardOutput();
    int width = 0, height = 0, used = 0;
    Paper out;
    if (std::sscanf(all.constData(), "P5\n# pages %d\n%d %d\n255%n", &out.pages, &width, &height, &used) != 3 ||
        width < 1 || height < 1 || all.size() - used - 1 != static_cast<qsizetype>(width) * height)
        return refused("what was read of it is not whole");
    out.page = measure::Raster(width, height);
    std::memcpy(out.page.grey.data(), all.constData() + used + 1, out.page.grey.size());
    return out;
}

} // namespace amber::app
