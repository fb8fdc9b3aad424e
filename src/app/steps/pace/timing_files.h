#pragma once
#include "app/work/session.h"
#include "app/work/viewing.h"

#include <QObject>

class QTextDocument;
class QWidget;

namespace frenlo::app {

/// The timing on its way out, as a table on paper, in a PDF or a file, or as an edit list; and holds that come back in.
class TimingFiles : public QObject
{
    Q_OBJECT
public:
    TimingFiles(Session& session, Viewing& viewing, QObject* parent = nullptr);

    /// .pdf, .csv, .otio or .edl; of the shot that is looked at, or of the Reel.
    void write(const QString& file);
    void read_holds(const QString& file);
    void ask_where_to_write(QWidget* beside);
    void ask_what_to_read(QWidget* beside);
    void print(QWidget* beside);

Q_SIGNALS:
    void failed(const QString& message);
    void written(const QString& file);

private:
    /// The dopesheet as it is printed.
    void lay_out(QTextDocument& document) const;

    Session& session_;
    Viewing& viewing_;
};

}
