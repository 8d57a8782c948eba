package dev.mockbell.project;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** The judge itself: a key that no schema names is found wherever it stands. */
class StrictSchemasTest {
    @TempDir
    Path folder;

    private void write(String file, String text) throws IOException {
        Path at = folder.resolve(file);
        Files.createDirectories(at.getParent());
        Files.writeString(at, text);
    }

    @Test
    void aKeyThatNoSchemaNamesIsFoundAtEveryDepth() throws IOException {
        write("suites/s.yaml", "title: S\nsteps:\n- name: A\n  call: a/b/c\n  known: {file: x.csv, colums: []}\n");
        write("suites/t.yaml", "title: S\nsteps:\n- when: a\n  then:\n  - pauseMillis: 5\n    nam: x\n");
        write(
                "mockbell.yaml",
                "name: x\nenvironments:\n- name: Test\n  endpoint: {}\nsecurity:\n- name: G\n  usr: anna\n");
        write("loads/l.yaml", "title: L\nsuite: s\nshape: {arrivals: [{at: 0, levl: 3}]}\n");
        write("cases/a/b/c.yaml", "title: C\nchecks:\n- vlid: true\n");
        write("mocks/m.yaml", "port: 1\nanswers:\n  A:\n  - title: x\n    bdy: y\n");
        assertThat(StrictSchemas.flaws(folder, Path.of("..", "docs", "schemas")))
                .anyMatch(f -> f.startsWith("suites/s.yaml") && f.contains("colums"))
                .anyMatch(f -> f.startsWith("suites/t.yaml"))
                .anyMatch(f -> f.startsWith("mockbell.yaml") && f.contains("'endpoint'"))
                .anyMatch(f -> f.startsWith("mockbell.yaml") && f.contains("usr"))
                .anyMatch(f -> f.startsWith("loads/l.yaml") && f.contains("levl"))
                .anyMatch(f -> f.startsWith("cases/a/b/c.yaml"))
                .anyMatch(f -> f.startsWith("mocks/m.yaml") && f.contains("bdy"));
    }
}
