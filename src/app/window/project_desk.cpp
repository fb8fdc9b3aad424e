#include "app/window/project_desk.h"

#include "app/window/notice_bar.h"
#include "core/project/collect.h"
#include "core/source/decode.h"
#include "demo/demo.h"

#include <QAbstractButton>
#include <QFileDialog>
#include <QFileInfo>
#include <QMessageBox>

#include <utility>

namespace frenlo::app {

namespace {

/// "*.jpg *.JPG *.png …", for the file dialog.
QString photo_patterns()
{
    QStringList patterns;
    for (const std::string_view ending : photo_extensions()) {
        const QString e = QString::fromUtf8(ending.data(), qsizetype(ending.size()));
        patterns << QLatin1Char('*') + e << QLatin1Char('*') + e.toUpper();
    }
    return patterns.join(QLatin1Char(' '));
}

}

ProjectDesk::ProjectDesk(const Places& places, Background& background, Session& session, NoticeBar& notice,
                         QWidget& window)
    : places_(places), background_(background), session_(session), notice_(notice), window_(window),
      demo_(background, Rank::measure), collecting_(background, Rank::write)
{
    connect(&collecting_, &Task::progress, this, [this](double fraction, const QString& what) {
        if (!collecting_.stopping())
            notice_.show_progress(fraction, tr("Collecting: file %1").arg(what), [this] { collecting_.stop(); });
    });
    connect(&collecting_, &Task::failed, &notice, [this](const QString& message) { notice_.show_message(message); });
    connect(&collecting_, &Task::stopped, &notice, [this] {
        notice_.show_message(tr("Collecting was stopped. What was copied stays; once more into the same folder goes "
                                "on."));
    });
    connect(&collecting_, &Task::changed, this, [this] {
        if (!collecting_.running())
            notice_.end_progress();
    });
    connect(&session, &Session::opened, this, [this](const QStringList& problems) {
        Q_EMIT used(session_.file());
        if (problems.isEmpty())
            notice_.hide();
        else if (look_near_by_ && session_.missing() > 0)
            session_.find_again(session_.file().parent_path());
        else
            notice_.show_message(
                problems.size() == 1
                    ? problems.first()
                    : tr("%1 And %2 more; Sort lists them.").arg(problems.first()).arg(problems.size() - 1));
    });
    connect(&session, &Session::saved_now, this, [this] {
        Q_EMIT used(session_.file());
        if (auto next = std::exchange(after_save_, {}))
            next();
    });
    connect(&session, &Session::failed, this, [this](const QString& message) {
        after_save_ = {};
        notice_.end_progress();
        notice_.show_message(message);
    });
    connect(&session, &Session::progress, this, [this](double fraction, const QString& what) {
        if (session_.busy())
            notice_.show_progress(fraction, what, [this] { session_.stop_adding(); });
    });
    connect(&session, &Session::changed_on_disk, this, [this] {
        notice_.show_message(
            tr("Another program has changed “%1” on the disk since it was opened here.").arg(session_.name()),
            {{tr("Take the change in"), [this] { session_.take_change_in(); }},
             {tr("Save under another name…"), [this] { save_as(); }}});
    });
    connect(&session, &Session::photos_added, &notice, &NoticeBar::end_progress);
    connect(&session, &Session::found_again, this, [this](int photos, int gone, int sounds, int silent) {
        notice_.end_progress();
        QStringList said;
        if (photos > 0 || gone > 0 || (sounds == 0 && silent == 0))
            said << tr("%n photo(s) found again.", nullptr, photos);
        if (gone > 0)
            said << tr("%n photo(s) still missing.", nullptr, gone);
        if (sounds > 0)
            said << tr("%n sound(s) found again.", nullptr, sounds);
        if (silent > 0)
            said << tr("%n sound(s) still missing.", nullptr, silent);
        notice_.show_message(said.join(QLatin1Char(' ')));
    });
    connect(&demo_, &Task::progress, this, [this](double fraction, const QString& what) {
        if (!demo_.stopping())
            notice_.show_progress(fraction, tr("Making the demo: %1").arg(what), [this] { demo_.stop(); });
    });
    connect(&demo_, &Task::failed, &notice, [this](const QString& message) { notice_.show_message(message); });
    connect(&demo_, &Task::changed, this, [this] {
        if (!demo_.running())
            notice_.end_progress();
    });
}

void ProjectDesk::open(const std::filesystem::path& file)
{
    when_safe([this, file] { session_.open(file); });
}

void ProjectDesk::take_in(const std::vector<std::filesystem::path>& places)
{
    if (places.size() == 1 && places.front().extension() == ".frenlo")
        open(places.front());
    else if (!places.empty())
        session_.add_photos(places);
}

void ProjectDesk::start_new()
{
    when_safe([this] { session_.start(session_.fresh_project(), {}); });
}

void ProjectDesk::show_demo()
{
    if (demo_.running()) // it comes
        return;
    when_safe([this] {
        demo_grows_ = false;
        with_demo(
            [this](const std::filesystem::path& project) {
                if (!demo_grows_)
                    open(project);
                else if (!session_.grown(project))
                    notice_.show_message(tr("The whole demo is there."),
                                         {{tr("Open it"), [this, project] { open(project); }}});
            },
            [this](const Project& so_far) { show_growing(so_far); });
    });
}

void ProjectDesk::show_demo_card()
{
    with_demo([this](const std::filesystem::path& project) { take_in({demo::card_folder(project.parent_path())}); });
}

void ProjectDesk::show_growing(const Project& so_far)
{
    if (demo_grows_)
        session_.grow(so_far);
    else if (session_.saved()) { // else somebody began something meanwhile
        demo_grows_ = true;
        session_.start(so_far, {});
    }
}

void ProjectDesk::with_demo(std::function<void(const std::filesystem::path&)> go_on,
                            std::function<void(const Project&)> so_far)
{
    demo_.start(
        {},
        [folder = places_.demo, self = QPointer<QObject>(this), so_far = std::move(so_far),
         &background = background_](const Job& job) {
            if (!so_far)
                return demo::make_demo(folder, job);
            return demo::make_demo(folder, job, [&](const Project& project) {
                background.post(self, [so_far, project] { so_far(project); });
            });
        },
        [go_on = std::move(go_on)](const std::filesystem::path& made) { go_on(made); });
}

void ProjectDesk::ask_collect()
{
    auto* dialog = new QFileDialog(&window_, tr("Collect into a folder"));
    dialog->setFileMode(QFileDialog::Directory);
    dialog->setAttribute(Qt::WA_DeleteOnClose);
    connect(dialog, &QFileDialog::fileSelected, this, [this](const QString& folder) { collect(from_qt(folder)); });
    dialog->open();
}

void ProjectDesk::collect(const std::filesystem::path& folder)
{
    collecting_.start(
        {},
        [project = session_.project(), folder, name = session_.name().toStdString()](const Job& job) {
            return collect_project(project, folder, name, job);
        },
        [this](const Collected& made) {
            notice_.end_progress();
            QString said = tr("%n file(s) lie in one folder with the project, each compared with its original.",
                              nullptr, int(made.files));
            if (!made.problems.empty())
                said += QLatin1Char(' ') + tr("%n could not be copied: %1", nullptr, int(made.problems.size()))
                                               .arg(QString::fromStdString(made.problems.front().text()));
            notice_.show_message(said, {{tr("Open it there"), [this, at = made.project] { open(at); }}});
        });
}

void ProjectDesk::ask_folder()
{
    auto* dialog = new QFileDialog(&window_, tr("Bring a folder in"));
    dialog->setFileMode(QFileDialog::Directory);
    dialog->setAttribute(Qt::WA_DeleteOnClose);
    connect(dialog, &QFileDialog::fileSelected, this, [this](const QString& folder) { take_in({from_qt(folder)}); });
    dialog->open();
}

void ProjectDesk::ask_run()
{
    auto* dialog =
        new QFileDialog(&window_, tr("Choose one photo of the run"), {}, tr("Photos (%1)").arg(photo_patterns()));
    dialog->setFileMode(QFileDialog::ExistingFile);
    dialog->setAttribute(Qt::WA_DeleteOnClose);
    connect(dialog, &QFileDialog::fileSelected, this, [this](const QString& photo) { take_in({from_qt(photo)}); });
    dialog->open();
}

void ProjectDesk::ask_project()
{
    auto* dialog = new QFileDialog(&window_, tr("Open a project"), {}, tr("Frenlo projects (*.frenlo)"));
    dialog->setFileMode(QFileDialog::ExistingFile);
    dialog->setAttribute(Qt::WA_DeleteOnClose);
    connect(dialog, &QFileDialog::fileSelected, this, [this](const QString& file) { open(from_qt(file)); });
    dialog->open();
}

void ProjectDesk::save()
{
    if (session_.file().empty())
        save_as();
    else
        session_.save(session_.file());
}

void ProjectDesk::save_as()
{
    auto* dialog = new QFileDialog(&window_, tr("Save the project"), {}, tr("Frenlo projects (*.frenlo)"));
    dialog->setAcceptMode(QFileDialog::AcceptSave);
    dialog->setDefaultSuffix(QStringLiteral("frenlo"));
    dialog->setAttribute(Qt::WA_DeleteOnClose);
    // Beside the photos, where it is found again.
    if (session_.file().empty() && !session_.is_empty()) {
        const auto& first = session_.project().shots.front();
        if (!first->photos.empty())
            dialog->setDirectory(to_qt(first->photos.front().photo->file.parent_path().parent_path()));
        dialog->selectFile(QString::fromStdString(first->name) + QStringLiteral(".frenlo"));
    } else if (!session_.file().empty()) {
        dialog->selectFile(to_qt(session_.file()));
    }
    connect(dialog, &QFileDialog::fileSelected, this, [this](const QString& file) { session_.save(from_qt(file)); });
    connect(dialog, &QFileDialog::rejected, this, [this] { after_save_ = {}; });
    dialog->open();
}

void ProjectDesk::when_safe(std::function<void()> go_on)
{
    if (session_.saved() || session_.is_empty()) {
        go_on();
        return;
    }
    auto* question = new QMessageBox(QMessageBox::NoIcon, tr("Unsaved work"),
                                     tr("“%1” has changes that are not saved.").arg(session_.name()),
                                     QMessageBox::Save | QMessageBox::Discard | QMessageBox::Cancel, &window_);
    question->setAttribute(Qt::WA_DeleteOnClose);
    connect(question, &QMessageBox::buttonClicked, this,
            [this, question, go_on = std::move(go_on)](QAbstractButton* pressed) {
                const auto answer = question->standardButton(pressed);
                if (answer == QMessageBox::Discard) {
                    session_.start(session_.fresh_project(), {}); // gone on purpose: nothing is kept for recovery
                    go_on();
                } else if (answer == QMessageBox::Save) {
                    after_save_ = go_on;
                    save();
                }
            });
    question->open();
}

void ProjectDesk::offer_recovery()
{
    background_.run(
        this, [folder = places_.recovery] { return abandoned_work(folder); },
        [this](const std::vector<AbandonedWork>& found) {
            if (found.empty())
                return;
            const AbandonedWork& work = found.front();
            const auto throw_away = [this, work] {
                background_.run(
                    this, [work] { return forget(work), true; }, [this](bool) { offer_recovery(); }); // of another one
            };
            if (work.damaged) {
                notice_.show_message(QString::fromStdString(work.damaged->text()), {{tr("Throw it away"), throw_away}});
                return;
            }
            const QString name =
                work.saved_as.empty() ? tr("a project without a name") : tr("“%1”").arg(to_qt(work.saved_as.stem()));
            const QString when = QFileInfo(to_qt(work.kept)).lastModified().toString(QStringLiteral("d MMM HH:mm"));
            notice_.show_message(tr("Work on %1 from %2 was not saved before Frenlo ended.").arg(name).arg(when),
                                 {{tr("Take it back"),
                                   [this, work] {
                                       background_.run(
                                           this,
                                           [work] { return Background::guarded([&] { return recovered(work); }); },
                                           [this, work](Result<Project> project) {
                                               if (!project) {
                                                   notice_.show_message(QString::fromStdString(project.error().text()));
                                                   return;
                                               }
                                               session_.take_back(std::move(*project), work.saved_as);
                                               background_.run(
                                                   this, [work] { return forget(work), true; }, [](bool) {});
                                           });
                                   }},
                                  {tr("Throw it away"), throw_away}});
        });
}

}
