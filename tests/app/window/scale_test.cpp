// SPDX-License-Identifier: GPL-3.0-or-later
// On a screen of two or three pixels to the point every page is the same page, drawn finer.
#include "command_runner.h"
#include <QImage>
#include <QTemporaryDir>

namespace {

QImage picture(const QString& view, const QString& size, const char* scale, const QString& folder) {
    const QString file = folder + QStringLiteral("/%1-%2.png").arg(view, QLatin1String(scale));
    qputenv("QT_SCALE_FACTOR", scale);
    const auto ran = amber::test::run({QStringLiteral("snapshot"), QStringLiteral("--view"), view,
                                       QStringLiteral("--out"), file, QStringLiteral("--size"), size});
    qunsetenv("QT_SCALE_FACTOR");
    EXPECT_EQ(ran.code, 0) << ran.err.toStdString();
    return QImage(file).convertToFormat(QImage::Format_Grayscale8);
}

/// Mean difference of two pictures, both brought to so many points, of 255.
double apart(const QImage& a, const QImage& b, QSize points) {
    const QImage x = a.scaled(points, Qt::IgnoreAspectRatio, Qt::SmoothTransformation),
                 y = b.scaled(points, Qt::IgnoreAspectRatio, Qt::SmoothTransformation);
    double sum = 0.0;
    for (int row = 0; row < points.height(); ++row)
        for (int column = 0; column < points.width(); ++column)
            sum += std::abs(x.constScanLine(row)[column] - y.constScanLine(row)[column]);
    return sum / points.width() / points.height();
}

TEST(Scale, TwoAndThreePixelsToThePointDrawTheSamePagesFiner) {
    const QTemporaryDir folder;
    // Brought down to blocks of four points, so that letters a hair apart do not count and lines that wrap elsewhere
    // do.
    const QSize blocks(1024 / 4, 600 / 4);
    const QString size = QStringLiteral("1024x600");
    std::vector<QImage> plain;
    const std::vector<std::pair<QString, std::vector<int>>> views{
        {QStringLiteral("wheelwright-climb"), {3}},
        {QStringLiteral("lorimer-trouble-engine-fails"), {2}},
    };
    for (const auto& [view, scales] : views) {
        const QImage one = picture(view, size, "1", folder.path());
        ASSERT_EQ(one.size(), QSize(1024, 600));
        for (const int scale : scales) {
            const QImage finer = picture(view, size, std::to_string(scale).c_str(), folder.path());
            EXPECT_EQ(finer.size(), QSize(1024, 600) * scale) << view.toStdString();
            EXPECT_LT(apart(one, finer, blocks), 4.0) << view.toStdString() << " at " << scale;
        }
        plain.push_back(one);
    }
    EXPECT_GT(apart(plain[0], plain[1], blocks), 8.0) << "another page is told apart";
}

} // namespace
