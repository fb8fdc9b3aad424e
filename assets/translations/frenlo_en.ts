<?xml version="1.0" encoding="utf-8"?>
<!DOCTYPE TS>
<TS version="2.1" language="en">
<context>
    <name>frenlo::app::PaceBench</name>
    <message numerus="yes">
        <location filename="../../src/app/bench/pace/pace_bench.cpp" line="87"/>
        <location filename="../../src/app/bench/pace/pace_bench.cpp" line="88"/>
        <source>Hold for %n frame(s)</source>
        <translation>
            <numerusform>Hold for %n frame</numerusform>
            <numerusform>Hold for %n frames</numerusform>
        </translation>
    </message>
    <message numerus="yes">
        <location filename="../../src/app/bench/pace/pace_bench.cpp" line="186"/>
        <source>Hold for all %n photo(s)</source>
        <translation>
            <numerusform>Hold for all %n photo</numerusform>
            <numerusform>Hold for all %n photos</numerusform>
        </translation>
    </message>
    <message numerus="yes">
        <location filename="../../src/app/bench/pace/pace_bench.cpp" line="187"/>
        <source>Hold for %n selected photo(s)</source>
        <translation>
            <numerusform>Hold for %n selected photo</numerusform>
            <numerusform>Hold for %n selected photos</numerusform>
        </translation>
    </message>
    <message numerus="yes">
        <location filename="../../src/app/bench/pace/pace_bench.cpp" line="222"/>
        <source>%n photo(s)</source>
        <translation>
            <numerusform>%n photo</numerusform>
            <numerusform>%n photos</numerusform>
        </translation>
    </message>
</context>
<context>
    <name>frenlo::app::Route</name>
    <message numerus="yes">
        <location filename="../../src/app/window/route.cpp" line="167"/>
        <source>%n photo(s)</source>
        <translation>
            <numerusform>%n photo</numerusform>
            <numerusform>%n photos</numerusform>
        </translation>
    </message>
</context>
<context>
    <name>frenlo::app::SheetPanel</name>
    <message numerus="yes">
        <location filename="../../src/app/sheet/sheet_panel.cpp" line="126"/>
        <source>&lt;b&gt;%n photo(s)&lt;/b&gt; selected · %1 frames · %2</source>
        <translation>
            <numerusform>&lt;b&gt;%n photo&lt;/b&gt; selected · %1 frames · %2</numerusform>
            <numerusform>&lt;b&gt;%n photos&lt;/b&gt; selected · %1 frames · %2</numerusform>
        </translation>
    </message>
    <message numerus="yes">
        <location filename="../../src/app/sheet/sheet_panel.cpp" line="133"/>
        <source>%n photo(s)</source>
        <translation>
            <numerusform>%n photo</numerusform>
            <numerusform>%n photos</numerusform>
        </translation>
    </message>
</context>
</TS>
