// Fields are written once: what comes from their tables is right for all of them, those of next year as well.
#include "core/picture/picture.h"
#include "core/project/value_codecs.h"
#include "core/steps/flicker/correction.h"
#include "core/steps/flicker/deflicker_values.h"
#include "core/steps/steady/steady_codecs.h"
#include "core/steps/steady/steady_values.h"
#include "tests/support/catch.h"
#include "tests/support/full_project.h"
#include "tests/support/requests.h"

using namespace frenlo;
using namespace frenlo::test;

namespace FRENLO_THIS_SOURCE {

namespace {

/// Every field of a struct by itself: it comes back from JSON, and a value in which it differs is another one, by
/// equality, by hash and in JSON.
template <class T>
void check_fields(const char* name)
{
    CAPTURE(name);
    for (int n = 0; n < 3; ++n) {
        const T full = Coded<T>::sample(n);
        CHECK(from_json<T>(to_json(full)) == full);
        CHECK(hash_of(full) == hash_of(from_json<T>(to_json(full))));
        for_each_field<T>([&](const auto& f) {
            CAPTURE(f.name);
            using Member = std::remove_cvref_t<decltype(full.*f.member)>;
            T usual{};
            CHECK_FALSE(same_value(full.*f.member, usual.*f.member)); // the sample sets them all
            T other = full;
            for (int k = n + 1; same_value(other.*f.member, full.*f.member) && k < n + 9; ++k)
                other.*f.member = Coded<Member>::sample(k, f.range);
            if (same_value(other.*f.member, full.*f.member)) // switches only
                other.*f.member = usual.*f.member;
            CHECK_FALSE(other == full);
            CHECK(hash_of(other) != hash_of(full));
            CHECK(to_json(other) != to_json(full));
            CHECK(from_json<T>(to_json(other)) == other);
            // In a file in which it is missing it has its default, or is missed.
            Json without = to_json(full);
            without.erase(f.name);
            if (f.required)
                CHECK_THROWS_WITH(from_json<T>(without), Catch::Contains(f.name));
            else
                CHECK(same_value(from_json<T>(without).*f.member, usual.*f.member));
            if (std::is_arithmetic_v<Member> && !std::is_same_v<Member, bool>) {
                Json wild = to_json(full);
                wild[f.name] = "much";
                CHECK_THROWS_WITH(from_json<T>(wild), Catch::Contains(f.name));
            }
        });
    }
}

}

TEST_CASE("every field of every value comes back from its file, and counts", "[fields]")
{
    check_fields<Correction>("Correction");
    check_fields<LightJump>("LightJump");
    check_fields<FlickerKind>("FlickerKind");
    check_fields<Corrected>("Corrected");
    check_fields<LightChange>("LightChange");
    check_fields<FlickerFigures>("FlickerFigures");
    check_fields<Alignment>("Alignment");
    check_fields<Smoothing>("Smoothing");
    check_fields<Region>("Region");
    check_fields<Pacing>("Pacing");
    check_fields<Exposure>("Exposure");
    check_fields<PhotoFile>("PhotoFile");
    check_fields<Finding>("Finding");
    check_fields<PhotoLight>("PhotoLight");
    check_fields<ShotPhoto>("ShotPhoto");
    check_fields<Steadying>("Steadying");
    check_fields<Deflicker>("Lighting");
    check_fields<Part>("Part");
    check_fields<Shot>("Shot");
    check_fields<Project>("Project");
}

TEST_CASE("whatever a picture depends on, another request is another key", "[fields][render]")
{
    const FrameRequest usual = request_of(Coded<PhotoPtr>::sample(1, {}), {});
    CHECK(usual == FrameRequest(usual));
    std::vector<FrameRequest> others(14, usual);
    placed(others[0]).photo = Coded<PhotoPtr>::sample(2, {});
    others[1].size = {4, 3};
    placed(others[2]).fit = Fit::fill;
    placed(others[3]).turns = 1;
    placed(others[4]).damage = Damage::accept;
    placed(others[5]).backdrop = {1, 0, 0};
    others[6].depth = Depth::sixteen;
    placed(others[7]).placement = Placement();
    placed(others[8]).stages.edit<Correction>().by_place = std::vector<double>(12, 0.0);
    others[9].parts[0].weight = 0.5;
    others[10].parts.push_back(usual.parts[0]);
    placed(others[11]).placement = Placement{Transform::eye(), {4, 3}, {0, 0, 1, 1}, Edges::mirrored};
    others[12].alpha = true;
    others[13].parts[0].what = std::make_shared<const FrameRequest>(usual); // a frame of another film
    for (std::size_t i = 0; i < others.size(); ++i)
        for (std::size_t k = 0; k <= others.size(); ++k) {
            const FrameRequest& other = k == others.size() ? usual : others[k];
            CAPTURE(i, k);
            CHECK((others[i] == other) == (i == k));
            CHECK((hash_of(others[i]) == hash_of(other)) == (i == k));
        }
    FrameRequest again = usual;
    placed(again).photo = std::make_shared<const PhotoFile>(*usual.photo());
    CHECK(again == usual); // by what it is, not where
    CHECK(hash_of(again) == hash_of(usual));
    again = others[13];
    again.parts[0].what = std::make_shared<const FrameRequest>(usual);
    CHECK(again == others[13]);
    CHECK(hash_of(again) == hash_of(others[13]));
}

TEST_CASE("words and their values", "[fields]")
{
    CHECK(word_of(Movement::similar) == "similar");
    CHECK(from_word<Return>("to-first") == Return::to_first);
    CHECK_FALSE(from_word<Return>("to first"));
    CHECK(hash_of(0.0) == hash_of(-0.0));
    CHECK(hash_of(std::optional<int>()) != hash_of(std::optional<int>(0)));
}

TEST_CASE("the full project sets every field", "[fields]")
{
    // So that what is tried on it is tried on all there is: a field that is added is missed here.
    const Project full = test::full_project();
    const auto missing = [](const auto& value, const auto& usual, const auto& self) -> void {
        using T = std::remove_cvref_t<decltype(value)>;
        for_each_field<T>([&](const auto& f) {
            CAPTURE(f.name);
            const auto& member = value.*f.member;
            CHECK_FALSE(same_value(member, usual.*f.member));
            using Member = std::remove_cvref_t<decltype(member)>;
            if constexpr (HasFields<Member>)
                self(member, usual.*f.member, self);
            else if constexpr (requires { member.has_value(); })
                if constexpr (HasFields<std::remove_cvref_t<decltype(*member)>>)
                    if (member)
                        self(*member, std::remove_cvref_t<decltype(*member)>(), self);
        });
    };
    missing(full.shot(ShotIndex(0)), Shot(), missing);
    missing(full.shot(ShotIndex(0)).photos[0], ShotPhoto(), missing);
    missing(*full.shot(ShotIndex(0)).photos[0].photo, PhotoFile(), missing);
}

}
