#pragma once
#include "app/work/photo_loader.h"
#include "app/work/session.h"
#include "core/steps/sort/photo_signature.h"

#include <QObject>

#include <map>
#include <memory>
#include <vector>

namespace frenlo::app {

/// Looks that were taken, so that a photo is looked at once however often its shot changes. Safe from any thread.
class SignatureMemory;

/// Something to look at, with the way there.
struct ToLookAt
{
    ShotIndex shot;
    PhotoIndex photo;
    Finding finding;
    bool resolved = false; ///< set aside, remedied, or left as it is
    bool operator==(const ToLookAt&) const = default;
};

/// Everything in the project that the photographer should look at. Found in the background, shot by shot; only shots
/// that changed are looked at again.
class Findings : public QObject
{
    Q_OBJECT
public:
    Findings(Background& background, Session& session, PhotoLoader& loader, QObject* parent = nullptr);
    ~Findings() override;
    [[nodiscard]] const std::vector<ToLookAt>& all() const { return all_; }
    /// Without those that are settled.
    [[nodiscard]] int open() const;
    [[nodiscard]] std::shared_ptr<SignatureMemory> signatures() const { return signatures_; }

Q_SIGNALS:
    void changed();
    void failed(const QString& message);

private:
    using OfShot = std::shared_ptr<const std::vector<ToLookAt>>; ///< without the shot's position
    void refresh();
    void look_at(const ShotPtr& shot);
    void look_closer();
    void collect();
    void collect_of(ShotIndex index, const ShotPtr& shot);

    Background& background_;
    Session& session_;
    PhotoLoader& loader_;
    std::shared_ptr<SignatureMemory> signatures_;
    std::map<ShotPtr, OfShot> found_;      ///< by what the shot was when it was looked at
    std::map<ShotPtr, OfShot> until_then_; ///< of shots that are being looked at: what was found before the last edit
    std::vector<ShotPtr> seen_;            ///< the shots at the last refresh
    std::map<ShotPtr, bool> looking_;
    std::vector<ToLookAt> all_;
};

/// Looks at these photos, remembered ones from memory.
std::vector<PhotoSignature> signatures_of(SignatureMemory& memory, std::span<const PhotoPtr> photos, const Job& job);

}
