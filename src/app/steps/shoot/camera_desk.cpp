#include "app/steps/shoot/camera_desk.h"

namespace frenlo::app {

using SteadyClock = std::chrono::steady_clock;

CameraDesk::CameraDesk(Background& background, QObject* parent) : QObject(parent), background_(background) {}

CameraDesk::~CameraDesk()
{
    for (const auto& w : ending_)
        w->end();
}

void CameraDesk::look_for_cameras()
{
    if (looking_)
        return;
    looking_ = true;
    Q_EMIT found();
    background_.run(
        this, [] { return Background::guarded([] { return frenlo::found_cameras(); }); },
        [this](Result<std::vector<FoundCamera>> all) {
            looking_ = false;
            if (all)
                found_ = std::move(*all);
            else
                Q_EMIT failed(QString::fromStdString(all.error().text()));
            Q_EMIT found();
        });
}

/// All of it said on the interface thread, and only while its camera is the one that is open.
CameraWorker::News CameraDesk::news()
{
    const auto here = [this, now = opened_](auto what) {
        QMetaObject::invokeMethod(
            this,
            [this, now, what = std::move(what)] {
                if (now == opened_)
                    what();
            },
            Qt::QueuedConnection);
    };
    CameraWorker::News n;
    n.opened = [this, here](const std::string& name) {
        here([this, name] {
            open_ = true;
            name_ = QString::fromStdString(name);
            Q_EMIT opened();
            Q_EMIT state_changed();
        });
    };
    n.settings = [this, here](const std::vector<CameraSetting>& settings) {
        here([this, settings] {
            settings_ = settings;
            Q_EMIT settings_changed();
        });
    };
    n.live = [this, here] { here([this] { take_live(); }); };
    n.taken = [this](const std::shared_ptr<const TakenPhoto>& photo, std::optional<std::int64_t> left) {
        // Whatever camera is open by then: it was taken.
        QMetaObject::invokeMethod(
            this,
            [this, photo, left] {
                photos_left_ = left;
                Q_EMIT taken(photo);
            },
            Qt::QueuedConnection);
    };
    n.told = [this, here](const std::string& what) {
        here([this, what] { Q_EMIT told(QString::fromStdString(what)); });
    };
    n.ended = [this, here](const std::string& why) {
        here([this, why] {
            taking_ = false;
            Q_EMIT ended(QString::fromStdString(why));
            Q_EMIT state_changed();
        });
    };
    n.failed = [this, here](const std::string& what) {
        here([this, what] { Q_EMIT failed(QString::fromStdString(what)); });
    };
    n.gone = [this, here](const std::string& why) {
        here([this, why] {
            const QString was = name_;
            forget();
            Q_EMIT closed(why.empty() ? tr("%1 was closed.").arg(was) : QString::fromStdString(why));
            Q_EMIT state_changed();
        });
    };
    return n;
}

void CameraDesk::forget()
{
    ++opened_;
    if (worker_) {
        worker_->end();
        ending_.push_back(std::move(worker_));
    }
    std::erase_if(ending_, [](const auto& w) { return w->has_ended(); });
    open_ = taking_ = false;
    address_.clear();
    settings_.clear();
    live_ = {};
    rate_ = 0;
}

void CameraDesk::open(const std::string& address)
{
    close();
    address_ = address;
    worker_ = std::make_unique<CameraWorker>(address, news());
    worker_->set_wish(wish_);
    worker_->set_live(live_on_);
    Q_EMIT state_changed();
}

void CameraDesk::close()
{
    if (!worker_)
        return;
    forget();
    Q_EMIT closed({});
    Q_EMIT state_changed();
}

void CameraDesk::set_live(bool on)
{
    live_on_ = on;
    if (worker_)
        worker_->set_live(on);
}

void CameraDesk::set_wish(const LiveWish& wish)
{
    wish_ = wish;
    if (worker_)
        worker_->set_wish(wish);
}

void CameraDesk::set(const std::string& key, double value)
{
    if (worker_)
        worker_->ask([key, value](Camera& c) { c.set(key, value); });
}

void CameraDesk::set_automatic(const std::string& key, bool on)
{
    if (worker_)
        worker_->ask([key, on](Camera& c) { c.set_automatic(key, on); });
}

void CameraDesk::lock_all()
{
    if (worker_)
        worker_->ask([](Camera& c) { frenlo::lock_all(c); });
}

void CameraDesk::pull(QPointF from, QPointF to)
{
    if (worker_)
        worker_->ask([from, to](Camera& c) { c.pull({from.x(), from.y()}, {to.x(), to.y()}); });
}

void CameraDesk::take(const DeskOrder& order)
{
    if (!open_ || taking_)
        return;
    taking_ = true;
    series_ = order.is_series();
    worker_->take(order);
    Q_EMIT state_changed();
}

void CameraDesk::stop()
{
    if (worker_)
        worker_->stop_taking();
}

void CameraDesk::take_live()
{
    auto newest = worker_ ? worker_->take_live() : std::nullopt;
    if (!newest)
        return;
    live_ = *std::move(newest);
    ++counted_;
    const auto now = SteadyClock::now();
    constexpr double lately = 1, long_ago = 3;
    if (const double passed = std::chrono::duration<double>(now - counted_since_).count(); passed >= lately) {
        rate_ = passed < long_ago ? counted_ / passed : 0;
        counted_ = 0;
        counted_since_ = now;
    }
    Q_EMIT live_changed();
}

}
