package dev.mockbell.cli;

import static org.assertj.core.api.Assertions.assertThat;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import dev.mockbell.project.ProjectStore;
import dev.mockbell.suite.Case;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.PrintStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class ContractDiffTest {
    private static final String BODY = "<p:Height xmlns:p=\"urn:peaks\"><p:peak>Stag Fell</p:peak></p:Height>";

    @TempDir
    Path folder;

    private final ByteArrayOutputStream out = new ByteArrayOutputStream();
    private final ByteArrayOutputStream err = new ByteArrayOutputStream();
    private Path was;
    private Path is;

    @BeforeEach
    void twoContracts() throws IOException {
        was = Files.writeString(folder.resolve("peaks.wsdl"), CommandsTest.WSDL.formatted("http://127.0.0.1:1/peaks"));
        is = changed("name=\"unit\" type=\"xs:string\" minOccurs=\"0\"", "name=\"unit\" type=\"xs:string\"");
    }

    private Path changed(String from, String to) throws IOException {
        return Files.writeString(
                folder.resolve("now.wsdl"), Files.readString(was).replace(from, to));
    }

    private int run(String... arguments) {
        out.reset();
        err.reset();
        Console console = new Console(
                new PrintStream(out, true, StandardCharsets.UTF_8), new PrintStream(err, true, StandardCharsets.UTF_8));
        return MockBellCommand.commandLine(console).execute(arguments);
    }

    private String out() {
        return out.toString(StandardCharsets.UTF_8);
    }

    @Test
    void saysWhatChangedInWordsAndExitsWithOneWhereItBreaksCallers() {
        assertThat(run("contract", "diff", was.toString(), is.toString())).isEqualTo(1);
        assertThat(out())
                .contains("Height\n")
                .contains("✗ takes · unit: may be left out before, required now")
                .contains("1 change breaks callers, 0 may, 0 do not.");
        assertThat(run("contract", "diff", is.toString(), was.toString())).isZero();
        assertThat(run("contract", "diff", is.toString(), was.toString(), "--for", "service"))
                .isEqualTo(1);
        assertThat(run("contract", "diff", was.toString(), was.toString())).isZero();
        assertThat(out()).isEqualTo("Nothing changed.\n");
    }

    @Test
    void theSameIsThereForProgramsAndAsAPage() throws IOException {
        Path page = folder.resolve("changes.html");
        assertThat(run("contract", "diff", was.toString(), is.toString(), "--json", "--html", page.toString()))
                .isEqualTo(1);
        JsonNode json = new ObjectMapper().readTree(out());
        assertThat(json.at("/callers/breaks").asInt()).isEqualTo(1);
        assertThat(json.at("/changes/0/path").asText()).isEqualTo("unit");
        assertThat(json.at("/changes/0/is/line").asInt()).isPositive();
        assertThat(Files.readString(page))
                .contains("takes · unit")
                .contains("may be left out")
                .doesNotContain("{{");
    }

    @Test
    void whatAProjectKeepsIsHeldAgainstItsSourceAndItsCasesAreMended() throws IOException {
        Path project = folder.resolve("project");
        assertThat(run("contract", "import", was.toString(), "--project", project.toString()))
                .isZero();
        new ProjectStore()
                .saveCase(
                        project,
                        new Case(
                                "stag", "Stag Fell", "", "peaks", "Height", "", BODY, List.of(), List.of(), List.of()));
        assertThat(run("contract", "diff", project.toString())).isZero();
        Files.writeString(was, Files.readString(is));
        assertThat(run("contract", "diff", project.toString())).isEqualTo(1);
        assertThat(out())
                .contains("touches 1 case")
                .contains("case Stag Fell: /Height/unit")
                .contains("mend:");
        assertThat(run("contract", "update", project.toString(), "--mend")).isZero();
        assertThat(out()).contains("Took Peaks over.").contains("case Stag Fell: mend");
        assertThat(Files.readString(project.resolve("cases/peaks/Height/stag.xml")))
                .contains("<p:unit>");
        assertThat(run("contract", "diff", project.toString())).isZero();
        assertThat(project.resolve(".mockbell/removed/peaks/snapshot.yaml")).exists();
        assertThat(run("contract", "update", project.toString())).isZero();
        assertThat(out()).startsWith("Nothing changed");
    }

    @Test
    void whatCannotBeHeldAgainstAnythingIsSaid() {
        assertThat(run("contract", "diff", was.toString())).isEqualTo(2);
        assertThat(err.toString(StandardCharsets.UTF_8)).contains("nothing to hold it against");
        assertThat(run("contract", "diff", was.toString(), "none.wsdl")).isEqualTo(2);
        assertThat(run("contract", "update", folder.resolve("none").toString())).isEqualTo(2);
    }
}
