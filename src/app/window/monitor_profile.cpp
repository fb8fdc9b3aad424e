#include "app/window/monitor_profile.h"

#include <QGuiApplication>

#include <cstdlib>
#include <memory>
#include <xcb/xcb.h>

namespace frenlo::app {

namespace {

struct Free
{
    void operator()(void* p) const { std::free(p); }
};
template <class Reply>
using Owned = std::unique_ptr<Reply, Free>;

}

std::string monitor_profile()
{
    const auto* x11 = qGuiApp->nativeInterface<QNativeInterface::QX11Application>();
    xcb_connection_t* connection = x11 ? x11->connection() : nullptr;
    if (!connection)
        return {};
    constexpr std::string_view name = "_ICC_PROFILE";
    const Owned<xcb_intern_atom_reply_t> atom(xcb_intern_atom_reply(
        connection, xcb_intern_atom(connection, 1, std::uint16_t(name.size()), name.data()), nullptr));
    if (!atom || atom->atom == XCB_ATOM_NONE)
        return {};
    const auto screens = xcb_setup_roots_iterator(xcb_get_setup(connection));
    constexpr std::uint32_t most_words = 4 << 20; // of four bytes
    const Owned<xcb_get_property_reply_t> property(xcb_get_property_reply(
        connection,
        xcb_get_property(connection, 0, screens.data->root, atom->atom, XCB_GET_PROPERTY_TYPE_ANY, 0, most_words),
        nullptr));
    if (!property)
        return {};
    return {static_cast<const char*>(xcb_get_property_value(property.get())),
            std::size_t(xcb_get_property_value_length(property.get()))};
}

}
