package dev.mockbell.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.PrintStream;
import java.net.ServerSocket;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpRequest.BodyPublishers;
import java.net.http.HttpResponse;
import java.net.http.HttpResponse.BodyHandlers;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.concurrent.TimeUnit;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.Timeout;
import org.junit.jupiter.api.io.TempDir;

/** The mock command as a person types it. */
@Timeout(120)
class MockCommandTest {
    private static final Pattern READY = Pattern.compile("READY (\\S+) \\1\\?wsdl");
    private static final String ASKS = "<p:Height xmlns:p='urn:peaks'><p:peak>Skarn</p:peak></p:Height>";

    @TempDir
    Path folder;

    private final ExecutorService commands = Executors.newCachedThreadPool();
    private Path wsdl;

    @BeforeEach
    void write() throws IOException {
        wsdl = folder.resolve("peaks.wsdl");
        Files.writeString(wsdl, CommandsTest.WSDL.formatted("http://127.0.0.1:1/peaks"));
    }

    @AfterEach
    void end() {
        commands.shutdownNow();
    }

    /** A command under way. */
    private final class Run {
        private final ByteArrayOutputStream out = new ByteArrayOutputStream();
        private final ByteArrayOutputStream err = new ByteArrayOutputStream();
        private final Future<Integer> code;

        Run(String... options) {
            List<String> all = new ArrayList<>(List.of("mock", wsdl.toString()));
            all.addAll(List.of(options));
            code = commands.submit(() -> MockBellCommand.commandLine(new Console(
                            new PrintStream(out, true, StandardCharsets.UTF_8),
                            new PrintStream(err, true, StandardCharsets.UTF_8)))
                    .execute(all.toArray(String[]::new)));
        }

        String address() throws InterruptedException {
            for (int i = 0; i < 600 && !code.isDone(); i++) {
                Matcher matcher = READY.matcher(out.toString(StandardCharsets.UTF_8));
                if (matcher.find()) {
                    return matcher.group(1);
                }
                Thread.sleep(50);
            }
            throw new IllegalStateException("never ready: " + out + err);
        }

        int code() throws Exception {
            return code.get(60, TimeUnit.SECONDS);
        }

        String err() {
            return err.toString(StandardCharsets.UTF_8);
        }
    }

    private static HttpResponse<String> call(String address, String payload) throws Exception {
        HttpRequest request = HttpRequest.newBuilder(URI.create(address))
                .header("Content-Type", "text/xml; charset=utf-8")
                .POST(BodyPublishers.ofString("<e:Envelope xmlns:e='http://schemas.xmlsoap.org/soap/envelope/'><e:Body>"
                        + payload + "</e:Body></e:Envelope>"))
                .build();
        return HttpClient.newHttpClient().send(request, BodyHandlers.ofString());
    }

    @Test
    void itEndsAfterSoManyAnswersAndLogsEach() throws Exception {
        Path log = folder.resolve("requests.log");
        Run run = new Run("--port", "0", "--once", "3", "--log", log.toString());
        String address = run.address();
        assertThat(call(address, ASKS).statusCode()).isEqualTo(200);
        assertThat(call(address, "<p:Depth xmlns:p='urn:peaks'/>").statusCode()).isEqualTo(500);
        assertThat(call(address, ASKS).statusCode()).isEqualTo(200);
        assertThat(run.code()).isZero();
        assertThat(run.err()).contains("unmatched: No operation of this contract takes {urn:peaks}Depth");
        List<String> lines = Files.readAllLines(log);
        assertThat(lines).hasSize(3);
        assertThat(lines.get(0)).contains("\tHeight\tsample\t");
        assertThat(lines.get(1)).contains("\t-\tunmatched\tNo operation");
    }

    @Test
    void quietSaysNothingOfWhatNothingMatched() throws Exception {
        Run run = new Run("--port", "0", "--once", "1", "--quiet");
        call(run.address(), "<x/>");
        assertThat(run.code()).isZero();
        assertThat(run.err()).isEmpty();
    }

    @Test
    void anAnswerComesFromAFileAndTheRestFromTheLiveEndpoint() throws Exception {
        Path file = Files.writeString(
                folder.resolve("high.xml"),
                "<p:HeightResponse xmlns:p='urn:peaks'><p:metres>{string-length(//peak)}</p:metres></p:HeightResponse>");
        Run live = new Run("--port", "0", "--once", "1", "--set-answer", "Height=" + file);
        Run front = new Run("--port", "0", "--once", "1", "--pass-on", live.address());
        assertThat(call(front.address(), ASKS).body()).contains("<p:metres>5</p:metres>");
        assertThat(live.code()).isZero();
        assertThat(front.code()).isZero();
    }

    @Test
    void byTlsItSaysWhatClientsAreToTrust() throws Exception {
        Run run = new Run("--port", "0", "--once", "1", "--tls");
        assertThat(run.address()).startsWith("https://127.0.0.1:");
        Matcher matcher = Pattern.compile("Clients are to trust (\\S+)").matcher(run.err());
        assertThat(matcher.find()).isTrue();
        assertThat(Files.readString(Path.of(matcher.group(1)))).startsWith("-----BEGIN CERTIFICATE-----");
        run.code.cancel(true);
    }

    @Test
    void aTakenPortSaysWhoHasItAndWhatCannotBeMeantIsRefused() throws Exception {
        try (ServerSocket taken = new ServerSocket(0, 1, java.net.InetAddress.getLoopbackAddress())) {
            Run run = new Run("--port", String.valueOf(taken.getLocalPort()));
            assertThat(run.code()).isEqualTo(2);
            assertThat(run.err()).contains("in use by").contains("which is free");
        }
        Run unknown = new Run("--set-answer", "Depth=" + wsdl);
        assertThat(unknown.code()).isEqualTo(2);
        assertThat(unknown.err()).contains("There is no operation Depth");
        Run missing = new Run("--set-answer", "Height=" + folder.resolve("gone.xml"));
        assertThat(missing.code()).isEqualTo(2);
        assertThat(missing.err()).contains("gone.xml");
    }

    @Test
    void whatWouldNotWorkIsSaidAtOnce() throws Exception {
        Path file = Files.writeString(folder.resolve("wrong.xml"), "<a>{1 + }</a>");
        Run run = new Run("--port", "0", "--once", "1", "--set-answer", "Height=" + file);
        assertThat(call(run.address(), ASKS).statusCode()).isEqualTo(500);
        assertThat(run.code()).isZero();
        assertThat(run.err()).contains("Height: Answer 1 · wrong.xml");
    }
}
