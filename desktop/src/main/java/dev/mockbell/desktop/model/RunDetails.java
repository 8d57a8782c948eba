package dev.mockbell.desktop.model;

import dev.mockbell.file.AtomicFile;
import dev.mockbell.ledger.ExchangeTexts;
import dev.mockbell.project.ProjectStore;
import dev.mockbell.report.HtmlReport;
import dev.mockbell.report.JUnitXml;
import dev.mockbell.report.RunLog;
import dev.mockbell.suite.Run;
import dev.mockbell.suite.RunComparison;
import dev.mockbell.suite.Suite;
import java.nio.file.Path;
import java.time.ZoneId;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Consumer;

/** What else is known of the run that is looked at: its log, both sides of what it exchanged, what is another in it; and reports. */
public final class RunDetails {
    private final CheckModel model;
    private final SuiteRuns making;
    private final Desk desk;

    RunDetails(CheckModel model, SuiteRuns making, Desk desk) {
        this.model = model;
        this.making = making;
        this.desk = desk;
    }

    private Optional<Run> looked() {
        int at = model.runProperty().get();
        return at < model.runs().size() ? Optional.of(model.runs().get(at)) : Optional.empty();
    }

    /** Hears what is another in the run that is looked at than in the one before it. */
    public void changes(Consumer<List<RunComparison.Change>> then) {
        int at = model.runProperty().get();
        if (at + 1 >= model.runs().size()) {
            then.accept(List.of());
            return;
        }
        Suite of = model.suiteProperty().get();
        Run before = model.runs().get(at + 1);
        Run now = model.runs().get(at);
        desk.tasks().run(() -> RunComparison.of(of, before, now), then, desk::tell);
    }

    /** The log of the run that is looked at, as it stands or as it was kept; hears it when it is there. */
    public void log(Consumer<List<String>> then) {
        Run of = looked().orElse(null);
        if (of == null) {
            then.accept(List.of());
        } else {
            // many lines take a while to be written out
            RunLog own = making.live(of).map(SuiteRuns.Live::log).orElse(null);
            desk.tasks()
                    .run(
                            () -> own == null
                                    ? desk.history().log(of).lines().toList()
                                    : own.lines().stream().map(own::text).toList(),
                            then,
                            desk::tell);
        }
    }

    /** Both sides of an exchange of the run that is looked at, from the ledger or as it was kept with the run. */
    public void sides(long exchange, Consumer<Optional<ExchangeTexts.Both>> then) {
        Run of = looked().orElse(null);
        ExchangeTexts texts = ExchangeTexts.on(desk.ledger(), desk.redactor());
        desk.tasks()
                .run(
                        () -> texts.of(exchange)
                                .or(() -> of == null
                                        ? Optional.empty()
                                        : desk.history().kept(of, exchange)),
                        then,
                        desk::tell);
    }

    /** Writes the newest run as JUnit XML and HTML into the project's {@code reports} folder and says where. */
    public void report() {
        if (model.runs().isEmpty()) {
            desk.tell(Notice.bad("There is no run to report yet. Run the suite first."));
            return;
        }
        Run newest = model.runs().get(0);
        Path project = desk.project().folder();
        String name = desk.project().name();
        ExchangeTexts exchanges = ExchangeTexts.on(desk.ledger(), desk.redactor());
        desk.tasks()
                .run(
                        () -> {
                            AtomicFile.write(
                                    ProjectStore.report(project, newest.suite() + ".xml"),
                                    JUnitXml.of(List.of(newest), Map.of("project", name), exchanges));
                            Path page = ProjectStore.report(project, newest.suite() + ".html");
                            AtomicFile.write(
                                    page,
                                    HtmlReport.of(name, List.of(newest), List.of(), ZoneId.systemDefault(), exchanges));
                            return page.getParent();
                        },
                        at -> desk.tell(Notice.plain("JUnit XML and HTML are in " + at + ".")),
                        desk::tell);
    }
}
