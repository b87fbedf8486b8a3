// SPDX-License-Identifier: GPL-3.0-or-later
// The chart's values against the table compiled into OpenCV's colour-correction module.
#include <opencv2/mcc/ccm.hpp>

#include "chart/chart_definition.h"
#include "support/qt_test.h"
#include "support/test_list.h"

using namespace rigmatch;

class TestChartReference : public QObject {
    Q_OBJECT
private Q_SLOTS:
    /// A model fitted to patches that equal the chart's own linear sRGB values gives back its
    /// reference: ours must be it.
    void linearValuesAgreeWithOpenCvsTable() {
        cv::Mat patches(24, 1, CV_64FC3);
        for (int i = 0; i < 24; ++i) {
            const colour::Vector3& linear = chart::nominalLinear()[static_cast<std::size_t>(i)];
            patches.at<cv::Vec3d>(i, 0) = cv::Vec3d(std::clamp(linear.x(), 0.0, 1.0),
                                                    std::clamp(linear.y(), 0.0, 1.0),
                                                    std::clamp(linear.z(), 0.0, 1.0));
        }
        cv::ccm::ColorCorrectionModel model(patches,
                                            cv::ccm::COLORCHECKER_Macbeth);  // library name
        model.setColorSpace(cv::ccm::COLOR_SPACE_sRGB);
        model.setLinear(cv::ccm::LINEARIZATION_IDENTITY);
        model.run();
        const cv::Mat reference = model.get_dst_rgbl();
        constexpr double kTableAgreement = 0.0001;  // sources 11.9: equal within 0.00007
        for (int i = 0; i < 24; ++i) {
            const colour::Vector3& ours = chart::nominalLinear()[static_cast<std::size_t>(i)];
            const cv::Vec3d theirs = reference.at<cv::Vec3d>(i, 0);
            for (int c = 0; c < 3; ++c) {
                QVERIFY2(
                    std::abs(ours(c) - theirs[c]) < kTableAgreement,
                    qPrintable(QString("%1 %2: %3 %4").arg(i).arg(c).arg(ours(c)).arg(theirs[c])));
            }
        }
    }
    /// sources 11.9, luminance column.
    void neutralsHaveTheirPublishedLuminance() {
        const std::array<double, 6> percent{91.31, 58.94, 36.32, 19.15, 8.83, 3.11};
        for (std::size_t i = 0; i < 6; ++i) {
            const double y =
                chart::nominalLinear()[18 + i].dot(colour::Vector3(0.212639, 0.715169, 0.072192));
            QVERIFY2(std::abs(100.0 * y - percent[i]) < 0.02,
                     qPrintable(QString::number(100.0 * y)));
        }
        QVERIFY(chart::nominalLinear()[chart::kCyan].x() < -0.03);
    }
};

RIG_TEST(TestChartReference);
#include "test_chart_reference.moc"
