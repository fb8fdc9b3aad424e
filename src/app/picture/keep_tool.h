#pragma once
#include "app/picture/picture_tool.h"
#include "app/picture/picture_view.h"

#include <memory>

namespace frenlo::app {

/// A bench's tool, there while it is wanted: made when it becomes so, and off the picture when it no longer is. Null
/// while it is not wanted; else it is to be told what it needs, and then put on the picture.
template <class Tool, class Make>
Tool* keep_tool(std::unique_ptr<Tool>& tool, PictureView& picture, bool wanted, const Make& make)
{
    if (!wanted) {
        if (tool && picture.tool() == tool.get())
            picture.set_tool(nullptr);
        tool.reset();
        return nullptr;
    }
    if (!tool)
        tool = make();
    return tool.get();
}

}
