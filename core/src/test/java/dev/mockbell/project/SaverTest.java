package dev.mockbell.project;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mockbell.problem.Problem;
import dev.mockbell.suite.Case;
import dev.mockbell.suite.Suite;
import java.io.BufferedReader;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import java.util.concurrent.CopyOnWriteArrayList;
import java.util.concurrent.TimeUnit;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class SaverTest {
    @TempDir
    Path folder;

    private final ProjectStore store = new ProjectStore();
    private final List<Problem> troubles = new CopyOnWriteArrayList<>();

    private static Case kept(String id, String body) {
        return new Case(id, id, "", "stay", "Book", "", body, List.of(), List.of(), List.of());
    }

    private Saver saver() {
        store.create(folder, "x");
        return new Saver(store, folder, troubles::add);
    }

    @Test
    void whatWasGivenJustBeforeClosingIsWrittenWheneverThatIs() throws Exception {
        Random random = new Random(9);
        Path at = folder.resolve("p");
        store.create(at, "x");
        for (int round = 0; round < 200; round++) {
            Saver saver = new Saver(store, at, troubles::add);
            int edits = 1 + random.nextInt(6);
            for (int i = 0; i < edits; i++) {
                saver.save(List.of(
                        Change.of(kept("a", "<a>" + round + "." + i + "</a>")),
                        Change.of(new Suite("s", round + "." + i, List.of()))));
            }
            Thread.sleep(random.nextInt(4));
            saver.close();
            Project project = store.open(at);
            String last = round + "." + (edits - 1);
            assertThat(project.kept("stay/Book/a").orElseThrow().body()).isEqualTo("<a>" + last + "</a>");
            assertThat(project.suite("s").orElseThrow().title()).isEqualTo(last);
        }
        assertThat(troubles).isEmpty();
    }

    /** Saves cases one after the other and says on its standard output which number is safe. */
    static final class Saving {
        public static void main(String[] args) throws Exception {
            ProjectStore store = new ProjectStore();
            Path at = Path.of(args[0]);
            int from = Integer.parseInt(args[1]);
            Saver saver = new Saver(store, at, p -> {});
            for (int i = from; ; i++) {
                saver.save(List.of(
                        Change.of(kept("a", "<a>" + i + "x".repeat(i % 5000) + "</a>")),
                        Change.of(new Suite("s", Integer.toString(i), List.of()))));
                saver.settle();
                System.out.println(i);
            }
        }
    }

    @Test
    void aProcessKilledAtAnyMomentLeavesNoTornFileAndLosesNothingSettled() throws Exception {
        Random random = new Random(4);
        Path at = folder.resolve("p");
        store.create(at, "x");
        int settled = 0;
        for (int round = 0; round < 5; round++) {
            settled = killed(at, settled, random.nextInt(120));
            Project project = store.open(at);
            assertThat(project.troubles()).isEmpty();
            String body = project.kept("stay/Book/a").orElseThrow().body();
            assertThat(body).endsWith("</a>");
            assertThat(Integer.parseInt(body.replaceAll("\\D", ""))).isGreaterThanOrEqualTo(settled);
            assertThat(Integer.parseInt(project.suite("s").orElseThrow().title()))
                    .isGreaterThanOrEqualTo(settled);
        }
    }

    private static int killed(Path at, int from, int millis) throws Exception {
        Process process = new ProcessBuilder(
                        Path.of(System.getProperty("java.home"), "bin", "java").toString(),
                        "-XX:TieredStopAtLevel=1",
                        "-cp",
                        System.getProperty("java.class.path"),
                        Saving.class.getName(),
                        at.toString(),
                        Integer.toString(from + 1))
                .redirectError(ProcessBuilder.Redirect.DISCARD)
                .start();
        int last = from;
        try (BufferedReader out = process.inputReader()) {
            // it must have begun; after that the moment is anybody's guess
            last = Integer.parseInt(out.readLine());
            Thread.sleep(millis);
            process.destroyForcibly().waitFor(60, TimeUnit.SECONDS);
            for (String line = out.readLine(); line != null; line = out.readLine()) {
                last = line.isEmpty() ? last : Integer.parseInt(line);
            }
        } catch (IOException closed) {
            // what was read before counts
            return last;
        }
        return last;
    }

    @Test
    void aChangeTakesThePlaceOfAnEarlierOneThatWaits() throws Exception {
        Saver saver = saver();
        List<String> order = new CopyOnWriteArrayList<>();
        var gate = new java.util.concurrent.CountDownLatch(1);
        saver.submit(() -> gate.await(60, TimeUnit.SECONDS));
        for (int i = 0; i < 100; i++) {
            saver.save(List.of(Change.of(kept("a", "<a>" + i + "</a>"))));
        }
        saver.save(List.of(Change.without(kept("b", ""))));
        var after = saver.submit(() -> order.add(Files.readString(folder.resolve("cases/stay/Book/a.xml"))));
        gate.countDown();
        after.get(60, TimeUnit.SECONDS);
        assertThat(order).containsExactly("<a>99</a>");
        saver.close();
    }

    /** A suite's file that cannot be read when it is to be saved. */
    private Path brokenWhileSaved(Saver saver) throws Exception {
        Path file = folder.resolve("suites/s.yaml");
        Files.createDirectories(file.getParent());
        Files.writeString(file, "title: [broken");
        saver.save(List.of(Change.of(new Suite("s", "mine", List.of()))));
        saver.settle();
        return file;
    }

    @Test
    void whatCannotBeWrittenIsToldOnceAndTriedAgainUntilItCan() throws Exception {
        Saver saver = saver();
        Path file = brokenWhileSaved(saver);
        saver.save(List.of(Change.of(kept("a", "<a/>"))));
        saver.settle();
        assertThat(troubles).singleElement().satisfies(p -> assertThat(p).hasMessageContaining("s.yaml"));
        assertThat(file).hasContent("title: [broken");
        Files.delete(file);
        saver.close();
        assertThat(store.open(folder).suite("s").orElseThrow().title()).isEqualTo("mine");
    }

    @Test
    void whatSomebodyMendedIsNotWrittenOver() throws Exception {
        Saver saver = saver();
        Path file = brokenWhileSaved(saver);
        Files.writeString(file, "title: mended\n");
        saver.close();
        assertThat(store.open(folder).suite("s").orElseThrow().title()).isEqualTo("mended");
        assertThat(saver.clashes())
                .singleElement()
                .satisfies(c -> assertThat(c.key()).isEqualTo("suite s"));
        assertThat(Files.readString(folder.resolve(".mockbell/versions/suites/s.yaml")))
                .contains("mine");
    }

    @Test
    void workGoesInTurnAndItsTroubleIsItsOwn() throws Exception {
        Saver saver = saver();
        var failing = saver.submit(() -> {
            throw Problem.input("no", null, null);
        });
        assertThat(failing).failsWithin(60, TimeUnit.SECONDS);
        saver.save(List.of(Change.of(kept("a", "<a/>"))));
        saver.close();
        assertThat(store.open(folder).cases()).hasSize(1);
    }

    @Test
    void evenAfterClosingNothingIsLost() {
        Saver saver = saver();
        saver.close();
        saver.save(List.of(Change.of(kept("late", "<a/>"))));
        assertThat(store.open(folder).cases()).hasSize(1);
    }

    @Test
    void theDifferenceOfTwoProjectsIsWhatIsSavedTheNewBeforeTheGone() {
        Project before =
                Project.of(folder, Settings.of("x")).withCase(kept("a", "1")).withCase(kept("b", "1"));
        Project after =
                before.withoutCase("stay/Book/a").withCase(kept("b", "2")).withCase(kept("c", "1"));
        List<String> keys = new ArrayList<>();
        Change.between(before, after).forEach(c -> keys.add((c.gone() ? "gone: " : "") + c.key()));
        assertThat(keys).containsExactly("case stay/Book/b", "case stay/Book/c", "gone: case stay/Book/a");
        assertThat(Change.between(after, after)).isEmpty();
        assertThat(Change.between(before, before.with(before.settings().withEnvironments(List.of(), "e"))))
                .singleElement()
                .returns("settings", Change::key)
                .returns(false, Change::gone);
    }
}
