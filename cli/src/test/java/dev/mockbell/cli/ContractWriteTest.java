package dev.mockbell.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.PrintStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class ContractWriteTest {
    private static final String TABLE = """
            Name,Type,How often,Limits,What it means
            ReportItem,operation,,,
            takes,,,,
            hutId,text,,NF-[0-9]{2},where it was found
            item,,1 to 20,,
              kind,one of,,"BOOT, POLE",
            gives,,,,
            tag,text,,,
            """;

    @TempDir
    Path folder;

    private final ByteArrayOutputStream out = new ByteArrayOutputStream();
    private final ByteArrayOutputStream err = new ByteArrayOutputStream();

    private int run(String... arguments) {
        out.reset();
        err.reset();
        Console console = new Console(
                new PrintStream(out, true, StandardCharsets.UTF_8), new PrintStream(err, true, StandardCharsets.UTF_8));
        return MockBellCommand.commandLine(console).execute(arguments);
    }

    private String text(ByteArrayOutputStream stream) {
        return stream.toString(StandardCharsets.UTF_8);
    }

    @Test
    void aTableBecomesFilesThatAreCleanAndAContractOfAProject() throws IOException {
        Path table = Files.writeString(folder.resolve("lost and found.csv"), TABLE);
        Path written = folder.resolve("out");
        assertThat(run(
                        "contract",
                        "write",
                        table.toString(),
                        "--out",
                        written.toString(),
                        "--soap",
                        "1.2",
                        "--address",
                        "http://huts.example/lost"))
                .isZero();
        Path wsdl = written.resolve("lost-and-found.wsdl");
        assertThat(text(out)).contains(wsdl.toString());
        assertThat(run("contract", "lint", wsdl.toString())).isZero();
        assertThat(run("contract", "show", wsdl.toString())).isZero();
        assertThat(text(out)).contains("ReportItem").contains("SOAP 1.2").contains("http://huts.example/lost");
        Path project = folder.resolve("project");
        assertThat(run("contract", "write", table.toString(), "--project", project.toString()))
                .isZero();
        assertThat(project.resolve("contracts/lost-and-found/written.yaml")).exists();
        assertThat(run("contract", "diff", project.toString(), wsdl.toString())).isEqualTo(1);
        assertThat(text(out)).contains("LostAndFoundSoap11");
    }

    @Test
    void samplesOfRequestAndAnswerBecomeOneOperation() throws IOException {
        Path request =
                Files.writeString(folder.resolve("a.xml"), "<FindHuts><area>North</area><beds>3</beds></FindHuts>");
        Path answer = Files.writeString(folder.resolve("FindHutsResponse.json"), "{\"hut\": [{\"id\": \"NF-01\"}]}");
        Path written = folder.resolve("out");
        assertThat(run(
                        "contract",
                        "write",
                        request.toString(),
                        answer.toString(),
                        "--title",
                        "Huts",
                        "--out",
                        written.toString()))
                .isZero();
        assertThat(Files.readString(written.resolve("huts.xsd")))
                .contains("name=\"beds\" type=\"xs:int\"")
                .contains("name=\"hut\" type=\"tns:Hut\" minOccurs=\"0\" maxOccurs=\"unbounded\"");
        assertThat(run("contract", "show", written.resolve("huts.wsdl").toString()))
                .isZero();
        assertThat(text(out).lines().filter(l -> l.contains("FindHuts"))).hasSize(2);
    }

    @Test
    void whatCannotBeSoIsSaidWithItsRow() throws IOException {
        Path table = Files.writeString(folder.resolve("t.csv"), TABLE.replace("one of", "oneof"));
        assertThat(run(
                        "contract",
                        "write",
                        table.toString(),
                        "--out",
                        folder.resolve("out").toString()))
                .isEqualTo(1);
        assertThat(text(err)).contains("row 5, kind: “oneof” is no type");
        assertThat(run("contract", "write", table.toString())).isEqualTo(2);
        assertThat(run("contract", "write", "none.csv", "--out", "x")).isEqualTo(2);
        assertThat(run("contract", "write", table.toString(), "--out", "x", "--soap", "2.0"))
                .isEqualTo(2);
    }
}
