#include "core/camera/video_camera.h"

#include "core/base/libav.h"
#include "core/source/clip_pixels.h"

#include <opencv2/imgproc.hpp>

#include <atomic>
#include <cerrno>
#include <condition_variable>
#include <cstring>
#include <dlfcn.h>
#include <fcntl.h>
#include <filesystem>
#include <linux/videodev2.h>
#include <mutex>
#include <sys/ioctl.h>
#include <thread>
#include <unistd.h>

extern "C" {
#include <libavdevice/version_major.h>
#include <libavutil/macros.h>
}

namespace frenlo {

namespace {

using Clock = std::chrono::steady_clock;
constexpr std::chrono::seconds longest_wait{5};

/// Lets FFmpeg know its devices. Their library brings some thirty others along, from sound servers to a text-mode
/// display; so it is loaded by whoever opens a video camera, not at every start.
void know_devices()
{
    static const bool known = [] {
        void* library = ::dlopen("libavdevice.so." AV_STRINGIFY(LIBAVDEVICE_VERSION_MAJOR), RTLD_NOW | RTLD_LOCAL);
        auto* tell = library ? reinterpret_cast<void (*)()>(::dlsym(library, "avdevice_register_all")) : nullptr;
        if (tell)
            tell();
        return tell != nullptr;
    }();
    if (!known)
        throw Failure({"FFmpeg's library of devices is not installed", {}, "Install libavdevice"});
}

class VideoCamera : public Camera
{
public:
    VideoCamera(const VideoInput& input, std::string name, std::unique_ptr<VideoControls> controls)
        : name_(std::move(name)), controls_(std::move(controls))
    {
        open(input);
        reader_ = std::jthread([this](const std::stop_token& stop) { read(stop); });
    }

    ~VideoCamera() override
    {
        reader_.request_stop();
        ending_ = true;
    }
    VideoCamera(const VideoCamera&) = delete;
    VideoCamera& operator=(const VideoCamera&) = delete;

    [[nodiscard]] std::string name() const override { return name_; }
    [[nodiscard]] std::vector<CameraSetting> settings() override
    {
        return controls_ ? controls_->settings() : std::vector<CameraSetting>();
    }
    void set(const std::string& key, double value) override
    {
        if (!controls_)
            throw Failure({name_ + " has nothing that can be set", {}, ""});
        controls_->set(key, value);
    }
    void set_automatic(const std::string& key, bool on) override
    {
        if (!controls_)
            throw Failure({name_ + " has nothing that can be set", {}, ""});
        controls_->set_automatic(key, on);
    }

    [[nodiscard]] cv::Mat live(std::chrono::milliseconds patience) override
    {
        std::unique_lock lock(mutex_);
        arrived_.wait_for(lock, patience, [&] { return number_ > handed_ || gone_; });
        if (number_ == handed_) {
            if (gone_)
                camera_gone(name_, why_);
            return {};
        }
        handed_ = number_;
        return pixels(lock);
    }

    [[nodiscard]] TakenPicture take() override
    {
        std::unique_lock lock(mutex_);
        // The one that arrives next may have begun before; the one after it has not.
        const std::int64_t wanted = number_ + 2;
        arrived_.wait_for(lock, longest_wait, [&] { return number_ >= wanted || gone_; });
        if (number_ < wanted)
            camera_gone(name_, gone_ ? why_ : "no picture came");
        handed_ = number_;
        TakenPicture t;
        t.pixels = pixels(lock);
        return t;
    }

private:
    void open(const VideoInput& input)
    {
        know_devices();
        libav::be_quiet();
        const AVInputFormat* format = av_find_input_format(input.format.c_str());
        AVDictionary* options = nullptr;
        for (const auto& [key, value] : input.options)
            av_dict_set(&options, key.c_str(), value.c_str(), 0);
        AVFormatContext* raw = avformat_alloc_context();
        raw->interrupt_callback = {[](void* self) { return int(static_cast<VideoCamera*>(self)->interrupted()); },
                                   this};
        raw->flags |= AVFMT_FLAG_NOBUFFER;
        patience_ends_ = Clock::now() + longest_wait;
        const int error = avformat_open_input(&raw, input.url.c_str(), format, &options);
        av_dict_free(&options);
        if (error < 0)
            refuse(libav::error_text(error));
        file_.reset(raw);
        const AVCodec* codec = nullptr;
        stream_ = av_find_best_stream(raw, AVMEDIA_TYPE_VIDEO, -1, -1, &codec, 0);
        if (stream_ < 0 && avformat_find_stream_info(raw, nullptr) >= 0)
            stream_ = av_find_best_stream(raw, AVMEDIA_TYPE_VIDEO, -1, -1, &codec, 0);
        if (stream_ < 0 || codec == nullptr)
            refuse("it gives no pictures");
        decoder_.reset(avcodec_alloc_context3(codec));
        avcodec_parameters_to_context(decoder_.get(), raw->streams[stream_]->codecpar);
        decoder_->flags |= AV_CODEC_FLAG_LOW_DELAY;
        if (const int opened = avcodec_open2(decoder_.get(), codec, nullptr); opened < 0)
            refuse(libav::error_text(opened));
    }

    [[noreturn]] void refuse(const std::string& why) const
    {
        throw Failure({name_ + " cannot be opened (" + why + ")",
                       {},
                       "See whether another program has it open, and whether you may use it"});
    }

    [[nodiscard]] bool interrupted() const { return ending_ || Clock::now() > patience_ends_.load(); }

    void read(const std::stop_token& stop)
    {
        const libav::Owned<AVPacket> packet(av_packet_alloc());
        const libav::Owned<AVFrame> frame(av_frame_alloc());
        int error = 0;
        while (!stop.stop_requested()) {
            patience_ends_ = Clock::now() + longest_wait;
            error = av_read_frame(file_.get(), packet.get());
            if (error == AVERROR(EAGAIN)) {
                std::this_thread::sleep_for(std::chrono::milliseconds(2));
                continue;
            }
            if (error < 0)
                break;
            if (packet->stream_index == stream_ && avcodec_send_packet(decoder_.get(), packet.get()) >= 0)
                while (avcodec_receive_frame(decoder_.get(), frame.get()) >= 0)
                    hand_over(*frame);
            av_packet_unref(packet.get());
        }
        const std::lock_guard lock(mutex_);
        gone_ = true;
        why_ = error < 0 ? libav::error_text(error) : "it was closed";
        arrived_.notify_all();
    }

    void hand_over(const AVFrame& frame)
    {
        libav::Owned<AVFrame> copy(av_frame_clone(&frame));
        const std::lock_guard lock(mutex_);
        newest_ = std::move(copy);
        ++number_;
        arrived_.notify_all();
    }

    /// Of the newest one; the lock is let go of meanwhile.
    [[nodiscard]] cv::Mat pixels(std::unique_lock<std::mutex>& lock)
    {
        const libav::Owned<AVFrame> frame(av_frame_clone(newest_.get()));
        lock.unlock();
        cv::Mat picture = clip_pixels(*frame);
        if (picture.depth() == CV_16U)
            picture.convertTo(picture, CV_8U, 255.0 / 65535);
        if (picture.channels() == 4)
            cv::cvtColor(picture, picture, cv::COLOR_BGRA2BGR);
        return picture;
    }

    std::string name_;
    std::unique_ptr<VideoControls> controls_;
    libav::Owned<AVFormatContext> file_;
    libav::Owned<AVCodecContext> decoder_;
    int stream_ = -1;
    std::atomic<Clock::time_point> patience_ends_{};
    std::atomic<bool> ending_ = false;

    std::mutex mutex_;
    std::condition_variable arrived_;
    libav::Owned<AVFrame> newest_;
    std::int64_t number_ = 0, handed_ = 0;
    bool gone_ = false;
    std::string why_;
    std::jthread reader_; ///< last: it uses the others
};

/// A device's file, open.
struct OpenDevice
{
    explicit OpenDevice(const std::string& file) : number(::open(file.c_str(), O_RDWR | O_NONBLOCK | O_CLOEXEC)) {}
    ~OpenDevice()
    {
        if (number >= 0)
            ::close(number);
    }
    OpenDevice(const OpenDevice&) = delete;
    OpenDevice& operator=(const OpenDevice&) = delete;
    int number;
};

DeviceCall call_of(const std::shared_ptr<OpenDevice>& device)
{
    return [device](unsigned long request, void* argument) {
        while (::ioctl(device->number, request, argument) != 0)
            if (errno != EINTR)
                return errno;
        return 0;
    };
}

std::optional<std::string> name_of_device(const DeviceCall& call)
{
    v4l2_capability can{};
    if (call(VIDIOC_QUERYCAP, &can) != 0)
        return std::nullopt;
    const std::uint32_t what = (can.capabilities & V4L2_CAP_DEVICE_CAPS) != 0 ? can.device_caps : can.capabilities;
    if ((what & V4L2_CAP_VIDEO_CAPTURE) == 0)
        return std::nullopt;
    const auto* card = reinterpret_cast<const char*>(can.card);
    return std::string(card, strnlen(card, sizeof can.card));
}

}

std::unique_ptr<Camera> open_video(const VideoInput& input, const std::string& name,
                                   std::unique_ptr<VideoControls> controls)
{
    return std::make_unique<VideoCamera>(input, name, std::move(controls));
}

std::vector<FoundCamera> found_video_cameras()
{
    std::vector<FoundCamera> found;
    std::error_code ec;
    for (const auto& entry : std::filesystem::directory_iterator("/dev", ec)) {
        const std::string file = entry.path().string();
        if (!entry.path().filename().string().starts_with("video"))
            continue;
        const auto device = std::make_shared<OpenDevice>(file);
        if (device->number < 0)
            continue;
        if (const auto name = name_of_device(call_of(device)))
            found.push_back({"v4l2:" + file, *name});
    }
    return found;
}

std::unique_ptr<Camera> open_video_camera(const std::string& rest)
{
    const std::string file = rest.empty() ? "/dev/video0" : rest;
    const auto device = std::make_shared<OpenDevice>(file);
    if (device->number < 0)
        throw Failure({std::string("the camera cannot be opened (") + std::strerror(errno) + ")", file,
                       "Look at its cable, and whether you may use video devices"});
    const DeviceCall call = call_of(device);
    const auto name = name_of_device(call);
    if (!name)
        throw Failure({"this is no camera", file, "Name another device"});
    return open_video({"v4l2", file, {{"use_libv4l2", "0"}}}, *name, std::make_unique<VideoControls>(call, *name));
}

std::unique_ptr<Camera> open_test_pictures(const std::string& rest)
{
    return open_video({"lavfi", "testsrc2=size=" + (rest.empty() ? "1280x720" : rest) + ":rate=30,realtime"},
                      "Test pictures", nullptr);
}

}
