#include "core/base/text.h"
#include "demo/demo.h"

#include <iostream>

int main(int argc, char** argv)
{
    if (argc != 2) {
        std::cerr
            << "usage: frenlo-demo FOLDER\nWrites the demo photos and their project there, if they are missing.\n";
        return 2;
    }
    try {
        std::cout << frenlo::shown_path(frenlo::demo::make_demo(argv[1], {})) << '\n';
        return 0;
    } catch (const std::exception& e) {
        std::cerr << "frenlo-demo: " << e.what() << '\n';
        return 3;
    }
}
