// SPDX-License-Identifier: GPL-3.0-or-later
#include "data_folder.h"
#include "kit/theme.h"
#include <QApplication>
#include <QStandardPaths>
#include <gtest/gtest.h>

int main(int argc, char** argv) {
    if (qEnvironmentVariableIsEmpty("QT_QPA_PLATFORM"))
        qputenv("QT_QPA_PLATFORM", "offscreen");
    qputenv("AMBER_THROTTLE_DATA", QByteArray::fromStdString(amber::test::dataFolder()));
    QStandardPaths::setTestModeEnabled(true);
    testing::InitGoogleTest(&argc, argv);
    QApplication::setStyle(QStringLiteral("Fusion"));
    QApplication application(argc, argv);
    if (!amber::app::loadFonts())
        return 2;
    QApplication::setFont(amber::app::face(14));
    return RUN_ALL_TESTS();
}
