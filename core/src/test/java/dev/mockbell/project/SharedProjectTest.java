package dev.mockbell.project;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mockbell.expression.Variable;
import dev.mockbell.problem.Problem;
import dev.mockbell.suite.Case;
import dev.mockbell.suite.Suite;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Random;
import java.util.concurrent.CopyOnWriteArrayList;
import java.util.concurrent.TimeUnit;
import java.util.function.BooleanSupplier;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Two programs that work on one project: what one changes the other hears of, and neither writes over the other's unseen. */
class SharedProjectTest {
    @TempDir
    Path folder;

    private final ProjectStore store = new ProjectStore();
    private final List<Problem> troubles = new CopyOnWriteArrayList<>();
    private final List<String> heard = new CopyOnWriteArrayList<>();
    private final List<Clash> clashes = new CopyOnWriteArrayList<>();
    private Project opened;
    private Saver ours;

    @BeforeEach
    void open() {
        store.create(folder, "x");
        store.saveCase(folder, kept("a", "<a>0</a>"));
        store.saveSuite(folder, new Suite("s", "0", List.of()));
        opened = store.open(folder);
        ours = saver(opened);
    }

    @AfterEach
    void close() {
        ours.close();
    }

    private Saver saver(Project from) {
        return new Saver(store, from, troubles::add, new Others() {
            @Override
            public void changed(String key, Optional<Part> before, Optional<Part> now) {
                heard.add(key + " " + (now.isPresent() ? "changed" : "gone"));
            }

            @Override
            public void clash(Clash clash) {
                clashes.add(clash);
            }
        });
    }

    private static Case kept(String id, String body) {
        return new Case(id, id, "", "stay", "Book", "", body, List.of(), List.of(), List.of());
    }

    private String body() {
        return store.open(folder).kept("stay/Book/a").orElseThrow().body();
    }

    @Test
    void whatTheOtherChangedMeanwhileIsNotWrittenOverAndOneIsChosen() throws Exception {
        new ProjectStore().saveCase(folder, kept("a", "<a>theirs</a>"));
        ours.save(List.of(Change.of(kept("a", "<a>ours</a>"))));
        ours.settle();
        assertThat(body()).isEqualTo("<a>theirs</a>");
        assertThat(clashes).singleElement().satisfies(c -> {
            assertThat(c.words())
                    .isEqualTo("The case “a” was changed here and changed by another program. Nothing is overwritten.");
            assertThat(((Case) c.theirs().value()).body()).isEqualTo("<a>theirs</a>");
        });
        // neither is lost when the process is killed now
        assertThat(folder.resolve(".mockbell/versions/cases/stay/Book/a.xml")).hasContent("<a>ours</a>");
        ours.save(List.of(Change.of(kept("a", "<a>ours too</a>"))));
        ours.settle();
        assertThat(body()).isEqualTo("<a>theirs</a>");
        assertThat(clashes).as("told once").hasSize(1);
        ours.keepOurs(ours.clashes().get(0));
        ours.settle();
        assertThat(body()).isEqualTo("<a>ours too</a>");
        assertThat(ours.clashes()).isEmpty();
        ours.save(List.of(Change.of(kept("a", "<a>later</a>"))));
        ours.settle();
        assertThat(body()).isEqualTo("<a>later</a>");
        assertThat(troubles).isEmpty();
    }

    @Test
    void bothSidesThatComeToTheSameHaveNoTwoVersionsAnyMore() throws Exception {
        new ProjectStore().saveCase(folder, kept("a", "<a>theirs</a>"));
        ours.save(List.of(Change.of(kept("a", "<a>ours</a>"))));
        ours.settle();
        assertThat(ours.clashes()).hasSize(1);
        ours.save(List.of(Change.of(kept("a", "<a>theirs</a>"))));
        ours.settle();
        assertThat(ours.clashes()).isEmpty();
        assertThat(body()).isEqualTo("<a>theirs</a>");
    }

    @Test
    void theirsIsTakenAndWorkGoesOnFromThere() throws Exception {
        new ProjectStore().saveCase(folder, kept("a", "<a>theirs</a>"));
        ours.save(List.of(Change.of(kept("a", "<a>ours</a>"))));
        ours.settle();
        ours.takeTheirs(ours.clashes().get(0));
        ours.save(List.of(Change.of(kept("a", "<a>on from theirs</a>"))));
        ours.settle();
        assertThat(body()).isEqualTo("<a>on from theirs</a>");
        assertThat(clashes).hasSize(1);
    }

    @Test
    void whatIsDeletedHereAndChangedThereStaysUntilOneIsChosen() throws Exception {
        new ProjectStore().saveCase(folder, kept("a", "<a>theirs</a>"));
        ours.save(List.of(Change.without(kept("a", "<a>0</a>"))));
        ours.settle();
        assertThat(body()).isEqualTo("<a>theirs</a>");
        assertThat(clashes).singleElement().satisfies(c -> assertThat(c.words()).contains("was deleted here"));
        ours.keepOurs(ours.clashes().get(0));
        ours.settle();
        assertThat(store.open(folder).cases()).isEmpty();
    }

    @Test
    void whatIsChangedHereAndDeletedThereIsThereAgain() throws Exception {
        new ProjectStore().deleteCase(folder, kept("a", ""));
        ours.save(List.of(Change.of(kept("a", "<a>ours</a>"))));
        ours.settle();
        assertThat(body()).isEqualTo("<a>ours</a>");
        assertThat(clashes).isEmpty();
    }

    @Test
    void settingsThatHaveNothingToDoWithEachOtherAreTakenTogether() throws Exception {
        Settings base = opened.settings();
        Project theirs = opened.with(base.withVariables(List.of(new Variable("nights", "2", false))));
        new ProjectStore().saveSettings(theirs);
        Settings here = base.withEnvironments(List.of(new Environment("Local", Map.of(), List.of())), "Local");
        ours.save(List.of(Change.of(here)));
        ours.settle();
        Settings now = store.open(folder).settings();
        assertThat(now.variables()).extracting(Variable::name).containsExactly("nights");
        assertThat(now.environment()).isEqualTo("Local");
        assertThat(clashes).isEmpty();
        assertThat(heard).containsExactly("settings changed");
        // who goes on before he has taken that over does not undo it
        ours.save(List.of(Change.of(here.withEnvironments(here.environments(), ""))));
        ours.settle();
        now = store.open(folder).settings();
        assertThat(now.variables()).extracting(Variable::name).containsExactly("nights");
        assertThat(now.environment()).isEmpty();
        ours.see("settings", Optional.of(Part.of(now)));
        // and the same thing on both sides clashes
        new ProjectStore().saveSettings(opened.with(now.withVariables(List.of(new Variable("nights", "3", false)))));
        ours.save(List.of(Change.of(now.withVariables(List.of(new Variable("nights", "4", false))))));
        ours.settle();
        assertThat(clashes).hasSize(1);
        assertThat(store.open(folder).settings().variables().get(0).value()).isEqualTo("3");
    }

    @Test
    void filesThatOthersChangeAreFoundOutAndOwnOnesAreNoNews() throws Exception {
        try (FolderWatch watch = new FolderWatch(folder, ours::look)) {
            assertThat(watch).isNotNull();
            Thread.sleep(1_500);
            ours.save(List.of(Change.of(kept("a", "<a>own</a>")), Change.of(kept("b", "<b/>"))));
            new ProjectStore().saveSuite(folder, new Suite("s", "theirs", List.of()));
            new ProjectStore().saveSuite(folder, new Suite("fresh", "fresh", List.of()));
            await(() -> heard.contains("suite s changed") && heard.contains("suite fresh changed"));
            ours.see("suite s", store.part(folder, folder.resolve("suites/s.yaml")));
            Files.delete(folder.resolve("suites/s.yaml"));
            await(() -> heard.contains("suite s gone"));
            Files.writeString(folder.resolve("cases/stay/Book/a.xml"), "<a>by an editor</a>");
            await(() -> heard.contains("case stay/Book/a changed"));
            Files.writeString(folder.resolve("suites/fresh.yaml"), "title: [");
            await(() -> !troubles.isEmpty());
            assertThat(heard).doesNotContain("case stay/Book/b changed", "suite fresh gone");
        }
    }

    private static void await(BooleanSupplier condition) throws InterruptedException {
        for (int i = 0; i < 400 && !condition.getAsBoolean(); i++) {
            Thread.sleep(50);
        }
        assertThat(condition.getAsBoolean()).isTrue();
    }

    /** Counts up in cases that it shares with others: each time it reads what is there, adds one, and gives way where others were quicker. */
    static final class Counting {
        public static void main(String[] args) throws Exception {
            Path at = Path.of(args[0]);
            int times = Integer.parseInt(args[1]);
            Random random = new Random(Long.parseLong(args[2]));
            ProjectStore store = new ProjectStore();
            int done = 0;
            while (done < times) {
                Project now = store.open(at);
                List<Object> lost = new ArrayList<>();
                Saver saver = new Saver(store, now, p -> lost.add(p), new Others() {
                    @Override
                    public void changed(String key, Optional<Part> before, Optional<Part> there) {
                        // it asks by itself
                    }

                    @Override
                    public void clash(Clash clash) {
                        lost.add(clash);
                    }
                });
                String id = "n" + random.nextInt(3);
                int count = now.kept("stay/Book/" + id)
                        .map(c -> Integer.parseInt(c.body().replaceAll("\\D", "")))
                        .orElse(0);
                Thread.sleep(random.nextInt(3));
                // two that make the same of it would have made one edit
                String who = args[2] + "-" + done;
                saver.save(List.of(Change.of(new Case(
                        id,
                        who,
                        "",
                        "stay",
                        "Book",
                        "",
                        "<a>" + (count + 1) + "</a>",
                        List.of(),
                        List.of(),
                        List.of()))));
                saver.settle();
                saver.close();
                done += lost.isEmpty() ? 1 : 0;
            }
        }
    }

    @Test
    void processesThatWriteAtRandomLoseNoEditOfEachOther(@TempDir Path told) throws Exception {
        List<Process> all = new ArrayList<>();
        int times = 100;
        for (int i = 0; i < 3; i++) {
            all.add(new ProcessBuilder(
                            Path.of(System.getProperty("java.home"), "bin", "java")
                                    .toString(),
                            "-XX:TieredStopAtLevel=1",
                            "-cp",
                            System.getProperty("java.class.path"),
                            Counting.class.getName(),
                            folder.toString(),
                            String.valueOf(times),
                            String.valueOf(i))
                    .redirectErrorStream(true)
                    .redirectOutput(told.resolve(String.valueOf(i)).toFile())
                    .start());
        }
        for (int i = 0; i < all.size(); i++) {
            assertThat(all.get(i).waitFor(180, TimeUnit.SECONDS)).isTrue();
            assertThat(all.get(i).exitValue())
                    .as(Files.readString(told.resolve(String.valueOf(i))))
                    .isZero();
        }
        int sum = store.open(folder).cases().stream()
                .filter(c -> c.id().startsWith("n"))
                .mapToInt(c -> Integer.parseInt(c.body().replaceAll("\\D", "")))
                .sum();
        assertThat(sum).isEqualTo(3 * times);
    }
}
