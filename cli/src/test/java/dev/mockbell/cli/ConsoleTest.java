package dev.mockbell.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.PrintStream;
import java.io.StringReader;
import java.nio.charset.StandardCharsets;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class ConsoleTest {
    private final ByteArrayOutputStream bytes = new ByteArrayOutputStream();
    private final Console console =
            new Console(new PrintStream(bytes, true, StandardCharsets.UTF_8), new PrintStream(bytes));

    @ParameterizedTest
    @CsvSource({"0, 0", "1, 3", "8191, 1", "8192, 8192", "8193, 20000", "100000, 2"})
    void aTextOfAnySizeIsWrittenWithoutTheWhiteSpaceAtItsEnd(int length, int white) throws IOException {
        String body = "a ø\n\uD83D\uDD14".repeat(length);
        console.text(new StringReader(body + " \n".repeat(white)));
        assertThat(bytes.toString(StandardCharsets.UTF_8)).isEqualTo(body + System.lineSeparator());
    }

    @ParameterizedTest
    @CsvSource({"8190", "8191", "8192"})
    void whiteSpaceWithinStaysWhereverThePiecesEnd(int length) throws IOException {
        String body = "x".repeat(length) + "  \t\n  y";
        console.text(new StringReader(body));
        assertThat(bytes.toString(StandardCharsets.UTF_8)).isEqualTo(body + System.lineSeparator());
    }
}
