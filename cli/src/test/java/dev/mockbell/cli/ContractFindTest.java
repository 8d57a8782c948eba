package dev.mockbell.cli;

import static org.assertj.core.api.Assertions.assertThat;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.OutputStream;
import java.io.PrintStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class ContractFindTest {
    @TempDir
    Path folder;

    private final ByteArrayOutputStream out = new ByteArrayOutputStream();

    private int run(String... arguments) {
        out.reset();
        Console console = new Console(
                new PrintStream(out, true, StandardCharsets.UTF_8),
                new PrintStream(OutputStream.nullOutputStream(), true, StandardCharsets.UTF_8));
        return MockBellCommand.commandLine(console).execute(arguments);
    }

    @Test
    void aFolderIsListedInWordsAndAsJsonAndWhatIsWantedIsKept() throws IOException {
        Path listed = Files.createDirectories(folder.resolve("listed"));
        String wsdl = CommandsTest.WSDL.formatted("http://127.0.0.1:1/peaks");
        Files.writeString(listed.resolve("peaks.wsdl"), wsdl);
        Files.writeString(listed.resolve("tops.wsdl"), wsdl.replace("service name=\"Peaks\"", "service name=\"Tops\""));
        Files.writeString(listed.resolve("zero.wsdl"), "");
        assertThat(run("contract", "find", listed.toString())).isZero();
        assertThat(out.toString(StandardCharsets.UTF_8))
                .contains("Peaks  1 operation · document/literal · 1.1")
                .contains("✗ zero.wsdl");
        assertThat(run("contract", "find", listed.toString(), "--json")).isZero();
        JsonNode json = new ObjectMapper().readTree(out.toString(StandardCharsets.UTF_8));
        assertThat(json.at("/kind").asText()).isEqualTo("folder");
        assertThat(json.at("/contracts/0/operations/0").asText()).isEqualTo("Height");
        assertThat(json.at("/contracts/2/problem").asText()).contains("empty");
        Path project = folder.resolve("project");
        assertThat(run("contract", "find", listed.toString(), "--import", project.toString(), "--only", "Tops"))
                .isZero();
        assertThat(project.resolve("contracts")).isDirectoryContaining("glob:**/tops");
        assertThat(project.resolve("contracts/peaks")).doesNotExist();
    }

    @Test
    void whereNoContractCanBeReadTheAnswerIsNo() throws IOException {
        Path listed = Files.createDirectories(folder.resolve("listed"));
        Files.writeString(listed.resolve("zero.wsdl"), "");
        assertThat(run("contract", "find", listed.toString())).isEqualTo(1);
        assertThat(run("contract", "find", folder.resolve("none").toString())).isEqualTo(2);
    }
}
