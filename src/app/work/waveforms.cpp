#include "app/work/waveforms.h"

#include "core/sound/kept_peaks.h"

namespace frenlo::app {

Waveforms::Waveforms(Background& background, std::filesystem::path folder, QObject* parent)
    : QObject(parent), background_(background), folder_(std::move(folder))
{
    connect(&background, &Background::ending, this, [this] { stop_.request_stop(); });
}

std::shared_ptr<const Peaks> Waveforms::of(const std::filesystem::path& file)
{
    if (asked_.insert(file).second) {
        const QPointer<Waveforms> self(this); // posted to from another thread: only looked at here
        const auto tell = [self, &background = background_, file](const Peaks& peaks) {
            background.post(QPointer<QObject>(self), [self, file, p = std::make_shared<const Peaks>(peaks)] {
                if (auto& known = self->known_[file]; !known || known->samples == 0) // not behind the whole of it
                    known = p;
                Q_EMIT self->changed();
            });
        };
        background_.run(
            this,
            [file, folder = folder_, tell, job = Job(stop_.get_token())] {
                return Background::guarded([&] { return kept_peaks(file, folder, job, tell); });
            },
            [this, file](Result<Peaks> peaks) {
                if (peaks)
                    known_[file] = std::make_shared<const Peaks>(std::move(*peaks));
                else
                    problems_[file] = peaks.error();
                Q_EMIT changed();
            },
            Rank::measure);
    }
    const auto it = known_.find(file);
    return it == known_.end() ? nullptr : it->second;
}

std::optional<Problem> Waveforms::problem(const std::filesystem::path& file) const
{
    const auto it = problems_.find(file);
    return it == problems_.end() ? std::nullopt : std::optional(it->second);
}

}
