#include "core/camera/gphoto2_camera.h"

#include "core/source/decode.h"

#include <opencv2/imgproc.hpp>

#include <algorithm>
#include <array>
#include <cctype>
#include <cmath>
#include <ctime>
#include <filesystem>
#include <functional>
#include <gphoto2/gphoto2.h>

namespace frenlo {

namespace {

struct Free
{
    void operator()(GPContext* p) const { gp_context_unref(p); }
    void operator()(::Camera* p) const
    {
        gp_camera_exit(p, nullptr);
        gp_camera_unref(p);
    }
    void operator()(CameraList* p) const { gp_list_unref(p); }
    void operator()(CameraAbilitiesList* p) const { gp_abilities_list_free(p); }
    void operator()(GPPortInfoList* p) const { gp_port_info_list_free(p); }
    void operator()(CameraFile* p) const { gp_file_unref(p); }
    void operator()(CameraWidget* p) const { gp_widget_unref(p); }
};
template <class T>
using Own = std::unique_ptr<T, Free>;

Own<CameraAbilitiesList> drivers(GPContext* context)
{
    CameraAbilitiesList* list = nullptr;
    gp_abilities_list_new(&list);
    Own<CameraAbilitiesList> all(list);
    gp_abilities_list_load(list, context);
    return all;
}

Own<GPPortInfoList> ports()
{
    GPPortInfoList* list = nullptr;
    gp_port_info_list_new(&list);
    Own<GPPortInfoList> all(list);
    gp_port_info_list_load(list);
    return all;
}

struct KnownSetting
{
    const char* key; ///< what drivers call it
    SettingKind kind;
    const char* name;
};

/// The names that libgphoto2's drivers have in common; what else a camera can set is set at the camera.
constexpr std::array known_settings{
    KnownSetting{"shutterspeed", SettingKind::exposure, "Shutter time"},
    KnownSetting{"exptime", SettingKind::exposure, "Shutter time"},
    KnownSetting{"aperture", SettingKind::aperture, "Aperture"},
    KnownSetting{"f-number", SettingKind::aperture, "Aperture"},
    KnownSetting{"iso", SettingKind::gain, "ISO"},
    KnownSetting{"whitebalance", SettingKind::white_balance, "White balance"},
    KnownSetting{"focusmode", SettingKind::focus, "Focus"},
    KnownSetting{"imageformat", SettingKind::other, "File"},
    KnownSetting{"expprogram", SettingKind::other, "Program"},
    KnownSetting{"autoexposuremode", SettingKind::other, "Program"},
};

bool says_automatic(const std::string& choice)
{
    std::string low;
    for (const char c : choice)
        low += char(std::tolower(static_cast<unsigned char>(c)));
    return low.find("auto") != std::string::npos || low == "p" || low.starts_with("af");
}

class StillCamera : public Camera
{
public:
    explicit StillCamera(const std::string& port)
    {
        context_.reset(gp_context_new());
        ::Camera* camera = nullptr;
        gp_camera_new(&camera);
        camera_.reset(camera);
        choose(port);
        tried(gp_camera_init(camera, context_.get()), "be opened");
    }

    [[nodiscard]] std::string name() const override { return name_; }

    [[nodiscard]] std::vector<CameraSetting> settings() override
    {
        std::vector<CameraSetting> all;
        CameraWidget* window = nullptr;
        if (const int error = gp_camera_get_config(camera_.get(), &window, context_.get()); error < 0) {
            if (error == GP_ERROR_NOT_SUPPORTED)
                return all;
            tried(error, "say how it is set");
        }
        const Own<CameraWidget> owner(window);
        for (const KnownSetting& k : known_settings)
            if (auto s = setting_of(window, k))
                all.push_back(*std::move(s));
        return all;
    }

    void set(const std::string& key, double value) override
    {
        change(key, [&](const CameraSetting& s) -> std::string {
            return s.choices.at(std::size_t(std::clamp(std::lround(value), 0L, long(s.choices.size()) - 1)));
        });
    }

    void set_automatic(const std::string& key, bool on) override
    {
        change(key, [&](const CameraSetting& s) -> std::string {
            // Away from automatic goes to the choice beside it: which one is right, only a person can say.
            for (const std::string& c : s.choices)
                if (says_automatic(c) == on)
                    return c;
            throw Failure({name_ + " has no such choice for “" + s.name + "”", {}, "Set it at the camera"});
        });
    }

    [[nodiscard]] cv::Mat live(std::chrono::milliseconds) override
    {
        const Own<CameraFile> file = new_file();
        const int error = gp_camera_capture_preview(camera_.get(), file.get(), context_.get());
        if (error == GP_ERROR_NOT_SUPPORTED)
            return {};
        if (error == GP_ERROR_CAMERA_BUSY || error == GP_ERROR_TIMEOUT)
            return {};
        tried(error, "show a live picture");
        auto decoded = decode_bytes(bytes_of(*file), 1, {}, "the live picture");
        if (!decoded)
            return {}; // half a picture: the next one is on its way
        cv::Mat picture = decoded->pixels;
        if (picture.channels() == 4)
            cv::cvtColor(picture, picture, cv::COLOR_BGRA2BGR);
        return picture;
    }

    [[nodiscard]] TakenPicture take() override
    {
        CameraFilePath at{};
        tried(gp_camera_capture(camera_.get(), GP_CAPTURE_IMAGE, &at, context_.get()), "take a photo");
        const Own<CameraFile> file = new_file();
        tried(gp_camera_file_get(camera_.get(), at.folder, at.name, GP_FILE_TYPE_NORMAL, file.get(), context_.get()),
              "hand its photo over");
        TakenPicture t;
        t.file = bytes_of(*file);
        t.ending = std::filesystem::path(at.name).extension().string();
        for (char& c : t.ending)
            c = char(std::tolower(static_cast<unsigned char>(c)));
        if (t.file.empty())
            throw Failure({name_ + " handed over an empty photo", {}, "Take it again"});
        return t;
    }

    [[nodiscard]] std::optional<CaptureTime> clock() override
    {
        CameraWidget* window = nullptr;
        if (gp_camera_get_config(camera_.get(), &window, context_.get()) < 0)
            return std::nullopt;
        const Own<CameraWidget> owner(window);
        CameraWidget* found = nullptr;
        CameraWidgetType type{};
        int seconds = 0;
        if (gp_widget_get_child_by_name(window, "datetime", &found) < 0 || gp_widget_get_type(found, &type) < 0 ||
            type != GP_WIDGET_DATE || gp_widget_get_value(found, &seconds) < 0 || seconds <= 0)
            return std::nullopt;
        const std::time_t time = seconds;
        std::tm local{};
        localtime_r(&time, &local);
        return CaptureTime{(std::int64_t(seconds) + local.tm_gmtoff) * 1'000'000};
    }

private:
    /// The camera at this port, or the first there is.
    void choose(const std::string& port)
    {
        const auto known = drivers(context_.get());
        const auto all_ports = ports();
        std::string model, place;
        CameraList* list = nullptr;
        gp_list_new(&list);
        const Own<CameraList> found(list);
        gp_abilities_list_detect(known.get(), all_ports.get(), list, context_.get());
        for (int i = 0; i < gp_list_count(list) && model.empty(); ++i) {
            const char *m = nullptr, *p = nullptr;
            gp_list_get_name(list, i, &m);
            gp_list_get_value(list, i, &p);
            if (port.empty() || port == p) {
                model = m;
                place = p;
            }
        }
        if (model.empty() && !port.empty() && !port.starts_with("usb")) {
            // Other ports cannot be asked what is there; the one driver that can is meant.
            place = port;
            model = only_driver_for(*known, port);
        }
        if (model.empty())
            throw Failure({port.empty() ? std::string("no camera answers at a cable") : "no camera answers at " + port,
                           {},
                           "Switch it on, look at its cable, and close what else uses it"});
        CameraAbilities can{};
        gp_abilities_list_get_abilities(known.get(), gp_abilities_list_lookup_model(known.get(), model.c_str()), &can);
        tried(gp_camera_set_abilities(camera_.get(), can), "be opened");
        GPPortInfo info = nullptr;
        const int at = gp_port_info_list_lookup_path(all_ports.get(), place.c_str());
        tried(at < 0 ? at : gp_port_info_list_get_info(all_ports.get(), at, &info), "be opened");
        tried(gp_camera_set_port_info(camera_.get(), info), "be opened");
        name_ = model;
    }

    static std::string only_driver_for(CameraAbilitiesList& known, const std::string& port)
    {
        const unsigned type = port.starts_with("serial")  ? GP_PORT_SERIAL
                              : port.starts_with("disk")  ? GP_PORT_DISK
                              : port.starts_with("ptpip") ? GP_PORT_PTPIP
                                                          : GP_PORT_NONE;
        std::string model;
        for (int i = 0; i < gp_abilities_list_count(&known); ++i) {
            CameraAbilities can{};
            gp_abilities_list_get_abilities(&known, i, &can);
            if ((unsigned(can.port) & type) == 0 || (can.operations & GP_OPERATION_CAPTURE_IMAGE) == 0)
                continue;
            if (!model.empty())
                return {};
            model = can.model;
        }
        return model;
    }

    void tried(int result, const std::string& what) const
    {
        if (result >= 0)
            return;
        const std::string who = name_.empty() ? "the camera" : name_;
        const std::string why = gp_result_as_string(result);
        if (result == GP_ERROR_IO || result == GP_ERROR_IO_READ || result == GP_ERROR_IO_WRITE ||
            result == GP_ERROR_IO_USB_FIND || result == GP_ERROR_MODEL_NOT_FOUND)
            camera_gone(who, why);
        throw Failure({who + " could not " + what + " (" + why + ")",
                       {},
                       "Look at the camera: whether it is busy, its card full, or it finds no focus"});
    }

    static Own<CameraFile> new_file()
    {
        CameraFile* file = nullptr;
        gp_file_new(&file);
        return Own<CameraFile>(file);
    }

    static std::string bytes_of(CameraFile& file)
    {
        const char* data = nullptr;
        unsigned long size = 0;
        gp_file_get_data_and_size(&file, &data, &size);
        return data ? std::string(data, size) : std::string();
    }

    static std::optional<CameraSetting> setting_of(CameraWidget* window, const KnownSetting& k)
    {
        CameraWidget* widget = nullptr;
        CameraWidgetType type{};
        if (gp_widget_get_child_by_name(window, k.key, &widget) < 0 || gp_widget_get_type(widget, &type) < 0 ||
            (type != GP_WIDGET_RADIO && type != GP_WIDGET_MENU))
            return std::nullopt;
        int read_only = 0;
        gp_widget_get_readonly(widget, &read_only);
        const int count = gp_widget_count_choices(widget);
        if (read_only != 0 || count <= 0)
            return std::nullopt;
        CameraSetting s{k.key, k.name, k.kind};
        const char* now = nullptr;
        gp_widget_get_value(widget, static_cast<void*>(&now));
        bool can_be_automatic = false;
        for (int i = 0; i < count; ++i) {
            const char* choice = nullptr;
            gp_widget_get_choice(widget, i, &choice);
            if (now && choice && std::string(now) == choice)
                s.value = i;
            s.choices.emplace_back(choice ? choice : "");
            can_be_automatic = can_be_automatic || says_automatic(s.choices.back());
        }
        s.most = count - 1;
        s.step = 1;
        if (can_be_automatic)
            s.automatic = now && says_automatic(now);
        return s;
    }

    void change(const std::string& key, const std::function<std::string(const CameraSetting&)>& wanted)
    {
        CameraWidget* window = nullptr;
        tried(gp_camera_get_config(camera_.get(), &window, context_.get()), "say how it is set");
        const Own<CameraWidget> owner(window);
        const auto* const k = std::find_if(known_settings.begin(), known_settings.end(),
                                           [&](const KnownSetting& s) { return key == s.key; });
        const auto s = k == known_settings.end() ? std::nullopt : setting_of(window, *k);
        if (!s)
            throw Failure({name_ + " has no setting “" + key + "”", {}, ""});
        CameraWidget* widget = nullptr;
        tried(gp_widget_get_child_by_name(window, k->key, &widget), "be set");
        const std::string value = wanted(*s);
        tried(gp_widget_set_value(widget, value.c_str()), "be set");
        tried(gp_camera_set_config(camera_.get(), window, context_.get()), "be set so");
    }

    Own<GPContext> context_;
    Own<::Camera> camera_;
    std::string name_;
};

}

std::vector<FoundCamera> found_still_cameras()
{
    std::vector<FoundCamera> all;
    const Own<GPContext> context(gp_context_new());
    const auto known = drivers(context.get());
    const auto at = ports();
    CameraList* list = nullptr;
    gp_list_new(&list);
    const Own<CameraList> found(list);
    gp_abilities_list_detect(known.get(), at.get(), list, context.get());
    for (int i = 0; i < gp_list_count(list); ++i) {
        const char *model = nullptr, *port = nullptr;
        gp_list_get_name(list, i, &model);
        gp_list_get_value(list, i, &port);
        all.push_back({std::string("gphoto2:") + port, model});
    }
    return all;
}

std::unique_ptr<Camera> open_still_camera(const std::string& rest)
{
    return std::make_unique<StillCamera>(rest);
}

}
