<?xml version="1.0" encoding="utf-8"?>
<!DOCTYPE TS>
<TS version="2.1" language="en">
    <context>
        <name>FindingGroup</name>
        <message numerus="yes">
            <source>%n remark(s) settled</source>
            <translation>
                <numerusform>%n remark settled</numerusform>
                <numerusform>%n remarks settled</numerusform>
            </translation>
        </message>
        <message numerus="yes">
            <source>%n photo(s) cannot be read</source>
            <translation>
                <numerusform>%n photo cannot be read</numerusform>
                <numerusform>%n photos cannot be read</numerusform>
            </translation>
        </message>
        <message numerus="yes">
            <source>%n file(s) are empty</source>
            <translation>
                <numerusform>%n file are empty</numerusform>
                <numerusform>%n files are empty</numerusform>
            </translation>
        </message>
        <message numerus="yes">
            <source>In %n case(s) photos have another size</source>
            <translation>
                <numerusform>In %n case photos have another size</numerusform>
                <numerusform>In %n cases photos have another size</numerusform>
            </translation>
        </message>
        <message numerus="yes">
            <source>Numbers are missing in %n place(s)</source>
            <translation>
                <numerusform>Numbers are missing in %n place</numerusform>
                <numerusform>Numbers are missing in %n places</numerusform>
            </translation>
        </message>
        <message numerus="yes">
            <source>%n number(s) are there more than once</source>
            <translation>
                <numerusform>%n number are there more than once</numerusform>
                <numerusform>%n numbers are there more than once</numerusform>
            </translation>
        </message>
        <message numerus="yes">
            <source>Names and times disagree in %n place(s)</source>
            <translation>
                <numerusform>Names and times disagree in %n place</numerusform>
                <numerusform>Names and times disagree in %n places</numerusform>
            </translation>
        </message>
        <message numerus="yes">
            <source>%n photo(s) are there more than once</source>
            <translation>
                <numerusform>%n photo are there more than once</numerusform>
                <numerusform>%n photos are there more than once</numerusform>
            </translation>
        </message>
        <message numerus="yes">
            <source>%n file(s) are no photos</source>
            <translation>
                <numerusform>%n file are no photos</numerusform>
                <numerusform>%n files are no photos</numerusform>
            </translation>
        </message>
        <message numerus="yes">
            <source>%n photo(s) are turned</source>
            <translation>
                <numerusform>%n photo are turned</numerusform>
                <numerusform>%n photos are turned</numerusform>
            </translation>
        </message>
        <message numerus="yes">
            <source>%n photo(s) are much brighter or darker than their neighbours</source>
            <translation>
                <numerusform>%n photo are much brighter or darker than their neighbours</numerusform>
                <numerusform>%n photos are much brighter or darker than their neighbours</numerusform>
            </translation>
        </message>
        <message numerus="yes">
            <source>%n photo(s) show something else than their neighbours</source>
            <translation>
                <numerusform>%n photo show something else than their neighbours</numerusform>
                <numerusform>%n photos show something else than their neighbours</numerusform>
            </translation>
        </message>
        <message numerus="yes">
            <source>%n photo(s) are less sharp than their neighbours</source>
            <translation>
                <numerusform>%n photo are less sharp than their neighbours</numerusform>
                <numerusform>%n photos are less sharp than their neighbours</numerusform>
            </translation>
        </message>
        <message numerus="yes">
            <source>In %n case(s) photos are no longer where they were</source>
            <translation>
                <numerusform>In %n case photos are no longer where they were</numerusform>
                <numerusform>In %n cases photos are no longer where they were</numerusform>
            </translation>
        </message>
        <message numerus="yes">
            <source>%n photo(s) have a date that is none</source>
            <translation>
                <numerusform>%n photo have a date that is none</numerusform>
                <numerusform>%n photos have a date that is none</numerusform>
            </translation>
        </message>
        <message numerus="yes">
            <source>%n folder(s) cannot be read</source>
            <translation>
                <numerusform>%n folder cannot be read</numerusform>
                <numerusform>%n folders cannot be read</numerusform>
            </translation>
        </message>
        <message numerus="yes">
            <source>%n bracket(s): the middle exposure is shown, the others are kept beside it</source>
            <translation>
                <numerusform>%n bracket: the middle exposure is shown, the others are kept beside it</numerusform>
                <numerusform>%n brackets: the middle exposure is shown, the others are kept beside it</numerusform>
            </translation>
        </message>
        <message numerus="yes">
            <source>Look at %n border(s)</source>
            <translation>
                <numerusform>Look at %n border</numerusform>
                <numerusform>Look at %n borders</numerusform>
            </translation>
        </message>
        <message numerus="yes">
            <source>%n photo(s) have a colour profile that cannot be used</source>
            <translation>
                <numerusform>%n photo have a colour profile that cannot be used</numerusform>
                <numerusform>%n photos have a colour profile that cannot be used</numerusform>
            </translation>
        </message>
    </context>
    <context>
        <name>QObject</name>
        <message numerus="yes">
            <source>every frame %n time(s)</source>
            <translation>
                <numerusform>every frame %n time</numerusform>
                <numerusform>every frame %n times</numerusform>
            </translation>
        </message>
        <message numerus="yes">
            <source>%n frame(s) in %1 left out</source>
            <translation>
                <numerusform>%n frame in %1 left out</numerusform>
                <numerusform>%n frames in %1 left out</numerusform>
            </translation>
        </message>
        <message numerus="yes">
            <source>%n frame(s) in %1 repeated</source>
            <translation>
                <numerusform>%n frame in %1 repeated</numerusform>
                <numerusform>%n frames in %1 repeated</numerusform>
            </translation>
        </message>
        <message numerus="yes">
            <source>%n frame(s) in %1 once more</source>
            <translation>
                <numerusform>%n frame in %1 once more</numerusform>
                <numerusform>%n frames in %1 once more</numerusform>
            </translation>
        </message>
    </context>
    <context>
        <name>frenlo::app::ExportBench</name>
        <message numerus="yes">
            <source>%n picture(s)</source>
            <translation>
                <numerusform>%n picture</numerusform>
                <numerusform>%n pictures</numerusform>
            </translation>
        </message>
        <message numerus="yes">
            <source>And %n more photo(s) cannot be read.</source>
            <translation>
                <numerusform>And %n more photo cannot be read.</numerusform>
                <numerusform>And %n more photos cannot be read.</numerusform>
            </translation>
        </message>
        <message numerus="yes">
            <source>%1, of %2, and %n more are there already.</source>
            <translation>
                <numerusform>%1, of %2, and %n more are there already.</numerusform>
                <numerusform>%1, of %2, and %n more are there already.</numerusform>
            </translation>
        </message>
        <message numerus="yes">
            <source>%n frame(s)</source>
            <translation>
                <numerusform>%n frame</numerusform>
                <numerusform>%n frames</numerusform>
            </translation>
        </message>
        <message numerus="yes">
            <source> · below the limit with %1 and %2 × %3, %n file(s) tried</source>
            <translation>
                <numerusform> · below the limit with %1 and %2 × %3, %n file tried</numerusform>
                <numerusform> · below the limit with %1 and %2 × %3, %n files tried</numerusform>
            </translation>
        </message>
        <message numerus="yes">
            <source>%n file(s) written</source>
            <translation>
                <numerusform>%n file written</numerusform>
                <numerusform>%n files written</numerusform>
            </translation>
        </message>
        <message numerus="yes">
            <source>, %n failed</source>
            <translation>
                <numerusform>, %n failed</numerusform>
                <numerusform>, %n failed</numerusform>
            </translation>
        </message>
        <message numerus="yes">
            <source>%n failed</source>
            <translation>
                <numerusform>%n failed</numerusform>
                <numerusform>%n failed</numerusform>
            </translation>
        </message>
        <message numerus="yes">
            <source> · %n more note(s)</source>
            <translation>
                <numerusform> · %n more note</numerusform>
                <numerusform> · %n more notes</numerusform>
            </translation>
        </message>
        <message numerus="yes">
            <source>Export list · %n waiting</source>
            <translation>
                <numerusform>Export list · %n waiting</numerusform>
                <numerusform>Export list · %n waiting</numerusform>
            </translation>
        </message>
    </context>
    <context>
        <name>frenlo::app::Filer</name>
        <message numerus="yes">
            <source>%n file(s) copied.</source>
            <translation>
                <numerusform>%n file copied.</numerusform>
                <numerusform>%n files copied.</numerusform>
            </translation>
        </message>
        <message numerus="yes">
            <source>%n file(s) moved.</source>
            <translation>
                <numerusform>%n file moved.</numerusform>
                <numerusform>%n files moved.</numerusform>
            </translation>
        </message>
        <message numerus="yes">
            <source>%n file(s) removed again.</source>
            <translation>
                <numerusform>%n file removed again.</numerusform>
                <numerusform>%n files removed again.</numerusform>
            </translation>
        </message>
        <message numerus="yes">
            <source>Putting files in order was interrupted last time; it is finished now, %n file(s).</source>
            <translation>
                <numerusform>Putting files in order was interrupted last time; it is finished now, %n file.</numerusform>
                <numerusform>Putting files in order was interrupted last time; it is finished now, %n files.</numerusform>
            </translation>
        </message>
    </context>
    <context>
        <name>frenlo::app::FilingPage</name>
        <message numerus="yes">
            <source>%n file(s), %1. Nothing is overwritten.</source>
            <translation>
                <numerusform>%n file, %1. Nothing is overwritten.</numerusform>
                <numerusform>%n files, %1. Nothing is overwritten.</numerusform>
            </translation>
        </message>
        <message numerus="yes">
            <source>Copy %n file(s)</source>
            <translation>
                <numerusform>Copy %n file</numerusform>
                <numerusform>Copy %n files</numerusform>
            </translation>
        </message>
        <message numerus="yes">
            <source>Move %n file(s)</source>
            <translation>
                <numerusform>Move %n file</numerusform>
                <numerusform>Move %n files</numerusform>
            </translation>
        </message>
    </context>
    <context>
        <name>frenlo::app::FlickerBench</name>
        <message numerus="yes">
            <source>%n photo(s) not evened</source>
            <translation>
                <numerusform>%n photo not evened</numerusform>
                <numerusform>%n photos not evened</numerusform>
            </translation>
        </message>
        <message numerus="yes">
            <source>%n photo(s) to look at</source>
            <translation>
                <numerusform>%n photo to look at</numerusform>
                <numerusform>%n photos to look at</numerusform>
            </translation>
        </message>
    </context>
    <context>
        <name>frenlo::app::FlowPart</name>
        <message numerus="yes">
            <source>╱ %n frame(s) mixed</source>
            <translation>
                <numerusform>╱ %n frame mixed</numerusform>
                <numerusform>╱ %n frames mixed</numerusform>
            </translation>
        </message>
        <message numerus="yes">
            <source>╱ %n in-between(s)</source>
            <translation>
                <numerusform>╱ %n in-between</numerusform>
                <numerusform>╱ %n in-betweens</numerusform>
            </translation>
        </message>
        <message numerus="yes">
            <source>After %n photo(s)</source>
            <translation>
                <numerusform>After %n photo</numerusform>
                <numerusform>After %n photos</numerusform>
            </translation>
        </message>
    </context>
    <context>
        <name>frenlo::app::FrameBench</name>
        <message numerus="yes">
            <source>%n view(s)</source>
            <translation>
                <numerusform>%n view</numerusform>
                <numerusform>%n views</numerusform>
            </translation>
        </message>
    </context>
    <context>
        <name>frenlo::app::HoldPart</name>
        <message numerus="yes">
            <source>Hold for %n frame(s)</source>
            <translation>
                <numerusform>Hold for %n frame</numerusform>
                <numerusform>Hold for %n frames</numerusform>
            </translation>
        </message>
        <message numerus="yes">
            <source>Hold for all %n photo(s)</source>
            <translation>
                <numerusform>Hold for all %n photo</numerusform>
                <numerusform>Hold for all %n photos</numerusform>
            </translation>
        </message>
        <message numerus="yes">
            <source>Hold for %n selected photo(s)</source>
            <translation>
                <numerusform>Hold for %n selected photo</numerusform>
                <numerusform>Hold for %n selected photos</numerusform>
            </translation>
        </message>
    </context>
    <context>
        <name>frenlo::app::KeptTones</name>
        <message numerus="yes">
            <source>Copy to %n selected photo(s)</source>
            <translation>
                <numerusform>Copy to %n selected photo</numerusform>
                <numerusform>Copy to %n selected photos</numerusform>
            </translation>
        </message>
    </context>
    <context>
        <name>frenlo::app::LayersBench</name>
        <message numerus="yes">
            <source>%n layer(s)</source>
            <translation>
                <numerusform>%n layer</numerusform>
                <numerusform>%n layers</numerusform>
            </translation>
        </message>
    </context>
    <context>
        <name>frenlo::app::ListBench</name>
        <message numerus="yes">
            <source>All written: %n file(s)</source>
            <translation>
                <numerusform>All written: %n file</numerusform>
                <numerusform>All written: %n files</numerusform>
            </translation>
        </message>
        <message numerus="yes">
            <source>%n file(s) written</source>
            <translation>
                <numerusform>%n file written</numerusform>
                <numerusform>%n files written</numerusform>
            </translation>
        </message>
        <message numerus="yes">
            <source>, %n failed</source>
            <translation>
                <numerusform>, %n failed</numerusform>
                <numerusform>, %n failed</numerusform>
            </translation>
        </message>
        <message numerus="yes">
            <source>%n photo(s) read whole: nothing stands in the way.</source>
            <translation>
                <numerusform>%n photo read whole: nothing stands in the way.</numerusform>
                <numerusform>%n photos read whole: nothing stands in the way.</numerusform>
            </translation>
        </message>
    </context>
    <context>
        <name>frenlo::app::LookPart</name>
        <message numerus="yes">
            <source>%n photo(s) to look at</source>
            <translation>
                <numerusform>%n photo to look at</numerusform>
                <numerusform>%n photos to look at</numerusform>
            </translation>
        </message>
    </context>
    <context>
        <name>frenlo::app::NextStep</name>
        <message numerus="yes">
            <source>%n hand-moved photo(s), %1, %2.</source>
            <translation>
                <numerusform>%n hand-moved photo, %1, %2.</numerusform>
                <numerusform>%n hand-moved photos, %1, %2.</numerusform>
            </translation>
        </message>
        <message numerus="yes">
            <source>%n photo(s) taken at equal intervals, %1, %2.</source>
            <translation>
                <numerusform>%n photo taken at equal intervals, %1, %2.</numerusform>
                <numerusform>%n photos taken at equal intervals, %1, %2.</numerusform>
            </translation>
        </message>
        <message numerus="yes">
            <source>%n photo(s) taken while walking, %1, %2.</source>
            <translation>
                <numerusform>%n photo taken while walking, %1, %2.</numerusform>
                <numerusform>%n photos taken while walking, %1, %2.</numerusform>
            </translation>
        </message>
        <message numerus="yes">
            <source>%n photo(s), %1, %2.</source>
            <translation>
                <numerusform>%n photo, %1, %2.</numerusform>
                <numerusform>%n photos, %1, %2.</numerusform>
            </translation>
        </message>
    </context>
    <context>
        <name>frenlo::app::OrderPart</name>
        <message numerus="yes">
            <source>= %n time(s)</source>
            <translation>
                <numerusform>= %n time</numerusform>
                <numerusform>= %n times</numerusform>
            </translation>
        </message>
        <message numerus="yes">
            <source>%n photo(s) without movement</source>
            <translation>
                <numerusform>%n photo without movement</numerusform>
                <numerusform>%n photos without movement</numerusform>
            </translation>
        </message>
        <message numerus="yes">
            <source>%n mark(s):</source>
            <translation>
                <numerusform>%n mark:</numerusform>
                <numerusform>%n marks:</numerusform>
            </translation>
        </message>
        <message numerus="yes">
            <source>%n step(s) too large</source>
            <translation>
                <numerusform>%n step too large</numerusform>
                <numerusform>%n steps too large</numerusform>
            </translation>
        </message>
    </context>
    <context>
        <name>frenlo::app::PaceBench</name>
        <message numerus="yes">
            <source>%n photo(s)</source>
            <translation>
                <numerusform>%n photo</numerusform>
                <numerusform>%n photos</numerusform>
            </translation>
        </message>
        <message numerus="yes">
            <source>%n frame(s)</source>
            <translation>
                <numerusform>%n frame</numerusform>
                <numerusform>%n frames</numerusform>
            </translation>
        </message>
    </context>
    <context>
        <name>frenlo::app::PhotoPart</name>
        <message numerus="yes">
            <source>Take %n point(s)</source>
            <translation>
                <numerusform>Take %n point</numerusform>
                <numerusform>Take %n points</numerusform>
            </translation>
        </message>
    </context>
    <context>
        <name>frenlo::app::ProjectDesk</name>
        <message numerus="yes">
            <source>%n photo(s) found again.</source>
            <translation>
                <numerusform>%n photo found again.</numerusform>
                <numerusform>%n photos found again.</numerusform>
            </translation>
        </message>
        <message numerus="yes">
            <source>%n photo(s) still missing.</source>
            <translation>
                <numerusform>%n photo still missing.</numerusform>
                <numerusform>%n photos still missing.</numerusform>
            </translation>
        </message>
        <message numerus="yes">
            <source>%n sound(s) found again.</source>
            <translation>
                <numerusform>%n sound found again.</numerusform>
                <numerusform>%n sounds found again.</numerusform>
            </translation>
        </message>
        <message numerus="yes">
            <source>%n sound(s) still missing.</source>
            <translation>
                <numerusform>%n sound still missing.</numerusform>
                <numerusform>%n sounds still missing.</numerusform>
            </translation>
        </message>
        <message numerus="yes">
            <source>%n file(s) lie in one folder with the project, each compared with its original.</source>
            <translation>
                <numerusform>%n file lie in one folder with the project, each compared with its original.</numerusform>
                <numerusform>%n files lie in one folder with the project, each compared with its original.</numerusform>
            </translation>
        </message>
        <message numerus="yes">
            <source>%n could not be copied: %1</source>
            <translation>
                <numerusform>%n could not be copied: %1</numerusform>
                <numerusform>%n could not be copied: %1</numerusform>
            </translation>
        </message>
    </context>
    <context>
        <name>frenlo::app::RangePart</name>
        <message numerus="yes">
            <source>%n photo(s)</source>
            <translation>
                <numerusform>%n photo</numerusform>
                <numerusform>%n photos</numerusform>
            </translation>
        </message>
    </context>
    <context>
        <name>frenlo::app::RatePart</name>
        <message numerus="yes">
            <source> · %n photo(s) not seen</source>
            <translation>
                <numerusform> · %n photo not seen</numerusform>
                <numerusform> · %n photos not seen</numerusform>
            </translation>
        </message>
    </context>
    <context>
        <name>frenlo::app::ReelBench</name>
        <message numerus="yes">
            <source> · and %n more</source>
            <translation>
                <numerusform> · and %n more</numerusform>
                <numerusform> · and %n more</numerusform>
            </translation>
        </message>
        <message numerus="yes">
            <source>%n shot(s)</source>
            <translation>
                <numerusform>%n shot</numerusform>
                <numerusform>%n shots</numerusform>
            </translation>
        </message>
    </context>
    <context>
        <name>frenlo::app::RetouchBench</name>
        <message numerus="yes">
            <source>made of %n photo(s)</source>
            <translation>
                <numerusform>made of %n photo</numerusform>
                <numerusform>made of %n photos</numerusform>
            </translation>
        </message>
        <message numerus="yes">
            <source>%n spot(s)</source>
            <translation>
                <numerusform>%n spot</numerusform>
                <numerusform>%n spots</numerusform>
            </translation>
        </message>
        <message numerus="yes">
            <source>%n area(s)</source>
            <translation>
                <numerusform>%n area</numerusform>
                <numerusform>%n areas</numerusform>
            </translation>
        </message>
        <message numerus="yes">
            <source>%n state(s)</source>
            <translation>
                <numerusform>%n state</numerusform>
                <numerusform>%n states</numerusform>
            </translation>
        </message>
    </context>
    <context>
        <name>frenlo::app::RetouchController</name>
        <message numerus="yes">
            <source>%1 · %n s left</source>
            <translation>
                <numerusform>%1 · %n s left</numerusform>
                <numerusform>%1 · %n s left</numerusform>
            </translation>
        </message>
    </context>
    <context>
        <name>frenlo::app::SeriesPart</name>
        <message numerus="yes">
            <source> · %n other exposure(s)</source>
            <translation>
                <numerusform> · %n other exposure</numerusform>
                <numerusform> · %n other exposures</numerusform>
            </translation>
        </message>
    </context>
    <context>
        <name>frenlo::app::Session</name>
        <message numerus="yes">
            <source>And %n more.</source>
            <translation>
                <numerusform>And %n more.</numerusform>
                <numerusform>And %n more.</numerusform>
            </translation>
        </message>
    </context>
    <context>
        <name>frenlo::app::SheetPanel</name>
        <message numerus="yes">
            <source>%n photo(s)</source>
            <translation>
                <numerusform>%n photo</numerusform>
                <numerusform>%n photos</numerusform>
            </translation>
        </message>
        <message numerus="yes">
            <source>&lt;b&gt;%n photo(s)&lt;/b&gt; selected · %1</source>
            <translation>
                <numerusform>&lt;b&gt;%n photo&lt;/b&gt; selected · %1</numerusform>
                <numerusform>&lt;b&gt;%n photos&lt;/b&gt; selected · %1</numerusform>
            </translation>
        </message>
        <message numerus="yes">
            <source>%n shot(s)</source>
            <translation>
                <numerusform>%n shot</numerusform>
                <numerusform>%n shots</numerusform>
            </translation>
        </message>
    </context>
    <context>
        <name>frenlo::app::SheetView</name>
        <message numerus="yes">
            <source>%n frame(s)</source>
            <translation>
                <numerusform>%n frame</numerusform>
                <numerusform>%n frames</numerusform>
            </translation>
        </message>
    </context>
    <context>
        <name>frenlo::app::SortPage</name>
        <message numerus="yes">
            <source>%n photo(s)</source>
            <translation>
                <numerusform>%n photo</numerusform>
                <numerusform>%n photos</numerusform>
            </translation>
        </message>
    </context>
    <context>
        <name>frenlo::app::SortTools</name>
        <message numerus="yes">
            <source>Make %n shot(s)</source>
            <translation>
                <numerusform>Make %n shot</numerusform>
                <numerusform>Make %n shots</numerusform>
            </translation>
        </message>
    </context>
    <context>
        <name>frenlo::app::SoundBench</name>
        <message numerus="yes">
            <source>%n frame(s)</source>
            <translation>
                <numerusform>%n frame</numerusform>
                <numerusform>%n frames</numerusform>
            </translation>
        </message>
        <message numerus="yes">
            <source>%n sound(s)</source>
            <translation>
                <numerusform>%n sound</numerusform>
                <numerusform>%n sounds</numerusform>
            </translation>
        </message>
    </context>
    <context>
        <name>frenlo::app::SteadyBench</name>
        <message numerus="yes">
            <source>Photo by photo: %n</source>
            <translation>
                <numerusform>Photo by photo: %n</numerusform>
                <numerusform>Photo by photo: %n</numerusform>
            </translation>
        </message>
    </context>
    <context>
        <name>frenlo::app::SteadyPage</name>
        <message numerus="yes">
            <source>%n photo(s) to look at</source>
            <translation>
                <numerusform>%n photo to look at</numerusform>
                <numerusform>%n photos to look at</numerusform>
            </translation>
        </message>
    </context>
    <context>
        <name>frenlo::app::SwapPage</name>
        <message numerus="yes">
            <source>Swap %n photo(s)</source>
            <translation>
                <numerusform>Swap %n photo</numerusform>
                <numerusform>Swap %n photos</numerusform>
            </translation>
        </message>
    </context>
    <context>
        <name>frenlo::app::TakePart</name>
        <message numerus="yes">
            <source>Bring in %n photo(s) that lie there</source>
            <translation>
                <numerusform>Bring in %n photo that lie there</numerusform>
                <numerusform>Bring in %n photos that lie there</numerusform>
            </translation>
        </message>
    </context>
    <context>
        <name>lengths</name>
        <message numerus="yes">
            <source>%n frame(s)</source>
            <translation>
                <numerusform>%n frame</numerusform>
                <numerusform>%n frames</numerusform>
            </translation>
        </message>
    </context>
</TS>
