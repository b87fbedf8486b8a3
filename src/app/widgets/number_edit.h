// SPDX-License-Identifier: GPL-3.0-or-later
#pragma once

#include <QLineEdit>

#include "base/result.h"

namespace rigmatch::app {

/// A field for one number: takes comma or point and a real minus; what is no number is refused with
/// words and stays to be corrected.
class NumberEdit : public QLineEdit {
    Q_OBJECT
public:
    NumberEdit(const QString& objectName, const QString& title, QWidget* parent);

    /// Shows a value; what is being typed stays.
    void setValue(double value, int decimals);
    /// The typed value was not taken: the field says so until it is changed.
    void markRefused();

Q_SIGNALS:
    void entered(double value);
    void refused(const rigmatch::base::Error& error);

private:
    void finish();

    QString m_title;
};

}  // namespace rigmatch::app
