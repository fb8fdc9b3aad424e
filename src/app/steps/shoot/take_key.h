#pragma once
#include <QKeySequence>
#include <QObject>

#include <filesystem>
#include <functional>

namespace frenlo::app {

/// The key that takes a photo, whatever else it would mean, while it is active: so that a foot switch or a remote that
/// types does. It is kept for all projects.
class TakeKey : public QObject
{
    Q_OBJECT
public:
    /// kept: what the user keeps for all projects. press: what it does.
    TakeKey(std::filesystem::path kept, std::function<void()> press, QObject* parent = nullptr);

    /// Read when somebody first asks.
    [[nodiscard]] const QKeySequence& key();
    void set_active(bool on);
    /// The next key that is typed becomes it; Esc leaves it.
    void learn();
    [[nodiscard]] bool learning() const { return learning_; }

Q_SIGNALS:
    void changed();
    void failed(const QString& what);

protected:
    bool eventFilter(QObject* watched, QEvent* event) override;

private:
    void set_key(const QKeySequence& key);
    [[nodiscard]] std::filesystem::path file() const { return kept_ / "take-key"; }

    std::filesystem::path kept_;
    std::function<void()> press_;
    QKeySequence key_;
    bool read_ = false;
    bool active_ = false;
    bool learning_ = false;
};

}
