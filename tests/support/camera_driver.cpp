// A camera driver for libgphoto2, loaded by its CAMLIBS: a still camera that does what the files of a folder say, which
// FRENLO_TEST_CAMERA names. photo.jpg is what it takes; refuse: it cannot; gone: it was pulled off. Each photo taken is
// counted in the file count.
#include <cstdio>
#include <cstdlib>
#include <cstring>
#include <ctime>
#include <filesystem>
#include <fstream>
#include <gphoto2/gphoto2.h>
#include <sstream>
#include <string>

namespace fs = std::filesystem;

namespace {

fs::path folder()
{
    const char* f = std::getenv("FRENLO_TEST_CAMERA");
    return f ? f : "/nowhere";
}

bool is(const char* what)
{
    return fs::exists(folder() / what);
}

std::string shutter = "Auto", iso = "100", balance = "Automatic";

int give_photo(CameraFile* file)
{
    std::ifstream in(folder() / "photo.jpg", std::ios::binary);
    std::ostringstream bytes;
    bytes << in.rdbuf();
    const std::string all = bytes.str();
    return gp_file_append(file, all.data(), all.size());
}

int get_file(CameraFilesystem*, const char*, const char*, CameraFileType type, CameraFile* file, void*, GPContext*)
{
    if (is("gone"))
        return GP_ERROR_IO;
    return type == GP_FILE_TYPE_NORMAL ? give_photo(file) : GP_ERROR_NOT_SUPPORTED;
}

int capture(Camera* camera, CameraCaptureType, CameraFilePath* path, GPContext* context)
{
    if (is("gone"))
        return GP_ERROR_IO_USB_FIND;
    if (is("refuse"))
        return GP_ERROR_CAMERA_BUSY;
    static int number = 0;
    ++number;
    std::ofstream(folder() / "count") << number;
    std::strcpy(path->folder, "/");
    std::snprintf(path->name, sizeof path->name, "DSC_%04d.JPG", number);
    return gp_filesystem_append(camera->fs, path->folder, path->name, context);
}

int preview(Camera*, CameraFile* file, GPContext*)
{
    return is("gone") ? GP_ERROR_IO_USB_FIND : give_photo(file);
}

void add(CameraWidget* window, const char* name, const std::string& now, std::initializer_list<const char*> choices)
{
    CameraWidget* w = nullptr;
    gp_widget_new(GP_WIDGET_RADIO, name, &w);
    gp_widget_set_name(w, name);
    for (const char* c : choices)
        gp_widget_add_choice(w, c);
    gp_widget_set_value(w, now.c_str());
    gp_widget_append(window, w);
}

int get_config(Camera*, CameraWidget** window, GPContext*)
{
    if (is("gone"))
        return GP_ERROR_IO_USB_FIND;
    gp_widget_new(GP_WIDGET_WINDOW, "Settings", window);
    add(*window, "shutterspeed", shutter, {"Auto", "1/30", "1/60", "1/125"});
    add(*window, "iso", iso, {"100", "200", "400"});
    add(*window, "whitebalance", balance, {"Automatic", "Daylight", "Tungsten"});
    CameraWidget* clock = nullptr;
    gp_widget_new(GP_WIDGET_DATE, "Clock", &clock);
    gp_widget_set_name(clock, "datetime");
    int now = 1'790'000'000;
    gp_widget_set_value(clock, &now);
    gp_widget_append(*window, clock);
    return GP_OK;
}

int set_config(Camera*, CameraWidget* window, GPContext*)
{
    for (const auto& [name, value] :
         {std::pair<const char*, std::string*>{"shutterspeed", &shutter}, {"iso", &iso}, {"whitebalance", &balance}}) {
        CameraWidget* w = nullptr;
        const char* now = nullptr;
        if (gp_widget_get_child_by_name(window, name, &w) >= 0 && gp_widget_get_value(w, static_cast<void*>(&now)) >= 0)
            *value = now;
    }
    return GP_OK;
}

}

extern "C" {

int camera_id(CameraText* id)
{
    std::strcpy(id->text, "frenlo-test-camera");
    return GP_OK;
}

int camera_abilities(CameraAbilitiesList* list)
{
    CameraAbilities a{};
    std::strcpy(a.model, "Still camera of the tests");
    a.status = GP_DRIVER_STATUS_PRODUCTION;
    a.port = GP_PORT_DISK;
    a.operations = CameraOperation(GP_OPERATION_CAPTURE_IMAGE | GP_OPERATION_CAPTURE_PREVIEW | GP_OPERATION_CONFIG);
    return gp_abilities_list_append(list, a);
}

int camera_init(Camera* camera, GPContext*)
{
    if (is("gone"))
        return GP_ERROR_IO;
    camera->functions->capture = capture;
    camera->functions->capture_preview = preview;
    camera->functions->get_config = get_config;
    camera->functions->set_config = set_config;
    static CameraFilesystemFuncs files{};
    files.get_file_func = get_file;
    return gp_filesystem_set_funcs(camera->fs, &files, camera);
}
}
