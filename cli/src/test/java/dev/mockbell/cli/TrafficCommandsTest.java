package dev.mockbell.cli;

import static org.assertj.core.api.Assertions.assertThat;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.PrintStream;
import java.net.InetSocketAddress;
import java.net.ProxySelector;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpRequest.BodyPublishers;
import java.net.http.HttpResponse;
import java.net.http.HttpResponse.BodyHandlers;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
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

/** Taps, the proxy and the ledger as a person types them. */
@Timeout(180)
class TrafficCommandsTest {
    private static final Pattern READY = Pattern.compile("READY (\\S+)");

    @TempDir
    Path folder;

    private final ExecutorService commands = Executors.newCachedThreadPool();
    private Path project;
    private String service;

    /** A command under way, or over. */
    private final class Run {
        private final ByteArrayOutputStream out = new ByteArrayOutputStream();
        private final ByteArrayOutputStream err = new ByteArrayOutputStream();
        private final Future<Integer> code;

        Run(String... arguments) {
            code = commands.submit(() -> MockBellCommand.commandLine(new Console(
                            new PrintStream(out, true, StandardCharsets.UTF_8),
                            new PrintStream(err, true, StandardCharsets.UTF_8)))
                    .execute(arguments));
        }

        String address() throws InterruptedException {
            for (int i = 0; i < 600 && !code.isDone(); i++) {
                Matcher matcher = READY.matcher(out());
                if (matcher.find()) {
                    return matcher.group(1);
                }
                Thread.sleep(50);
            }
            throw new IllegalStateException("never ready: " + out + err);
        }

        Run ended(int wanted) throws Exception {
            assertThat(code.get(60, TimeUnit.SECONDS)).as(out() + err()).isEqualTo(wanted);
            return this;
        }

        /** As by Ctrl+C: what is under way is written. */
        void stop(String told) throws InterruptedException {
            for (int i = 0; i < 200 && !err().contains(told); i++) {
                Thread.sleep(25);
            }
            code.cancel(true);
        }

        String out() {
            return out.toString(StandardCharsets.UTF_8);
        }

        String err() {
            return err.toString(StandardCharsets.UTF_8);
        }
    }

    @BeforeEach
    void write() throws Exception {
        Path wsdl = folder.resolve("peaks.wsdl");
        Files.writeString(wsdl, CommandsTest.WSDL.formatted("http://127.0.0.1:1/peaks"));
        project = folder.resolve("project");
        new Run("contract", "import", wsdl.toString(), "--project", project.toString()).ended(0);
        service = new Run("mock", wsdl.toString(), "--port", "0", "--quiet").address();
    }

    @AfterEach
    void end() throws InterruptedException {
        commands.shutdownNow();
        commands.awaitTermination(20, TimeUnit.SECONDS);
    }

    private static HttpResponse<String> call(String address, HttpClient client) throws Exception {
        HttpRequest request = HttpRequest.newBuilder(URI.create(address))
                .version(HttpClient.Version.HTTP_1_1)
                .header("Content-Type", "text/xml; charset=utf-8")
                .header("Authorization", "Bearer not-to-be-seen")
                .POST(BodyPublishers.ofString(
                        "<e:Envelope xmlns:e='http://schemas.xmlsoap.org/soap/envelope/'><e:Body><p:Height"
                                + " xmlns:p='urn:peaks'><p:peak>Skarn</p:peak></p:Height></e:Body></e:Envelope>"))
                .build();
        return client.send(request, BodyHandlers.ofString());
    }

    private static JsonNode json(Run run) throws IOException {
        return new ObjectMapper().readTree(run.out());
    }

    private Run ledger(String... arguments) throws Exception {
        String[] all = new String[arguments.length + 1];
        all[0] = "ledger";
        System.arraycopy(arguments, 0, all, 1, arguments.length);
        return new Run(all).ended(0);
    }

    @Test
    void aTapRecordsIntoTheProjectAndAFileAndTheLedgerIsListedShownAndHandedOn() throws Exception {
        Path har = folder.resolve("tap.har");
        Run tap = new Run("tap", project.toString(), "--listen", "0", "--forward", service, "--har", har.toString());
        String address = tap.address();
        assertThat(address).endsWith(URI.create(service).getPath());
        assertThat(call(address, HttpClient.newHttpClient()).statusCode()).isEqualTo(200);
        tap.stop("Height → 200");
        commands.submit(() -> {}).get();
        JsonNode list = json(ledger("list", project.toString(), "--way", "tapped", "--json"));
        for (int i = 0; i < 100 && list.path("exchanges").isEmpty(); i++) {
            Thread.sleep(50);
            list = json(ledger("list", project.toString(), "--way", "tapped", "--json"));
        }
        JsonNode line = list.path("exchanges").get(0);
        assertThat(line.path("operation").asText()).isEqualTo("Height");
        assertThat(line.path("endpoint").asText()).isEqualTo(service);
        assertThat(line.path("caller").asText()).isEqualTo("127.0.0.1");
        assertThat(list.path("figures").path("count").asInt()).isEqualTo(1);
        String number = line.path("number").asText();
        assertThat(ledger("show", project.toString(), number, "--wire").out())
                .contains("POST ")
                .contains("<p:peak>Skarn</p:peak>")
                .doesNotContain("not-to-be-seen");
        assertThat(ledger("show", project.toString(), number, "--wire", "--unmasked")
                        .out())
                .contains("not-to-be-seen");
        assertThat(ledger("list", project.toString(), "--text", "skarn", "--status", "2xx")
                        .out())
                .contains("\ttapped\tHeight\t200\t");
        assertThat(ledger("list", project.toString(), "--where", "$request//*:peak = 'Kettle'")
                        .out())
                .isEmpty();
        Path out = folder.resolve("out.har");
        ledger("export", project.toString(), "--har", out.toString());
        assertThat(Files.readString(out)).contains("\"_operation\":\"Height\"").doesNotContain("not-to-be-seen");
        assertThat(out.resolveSibling("out.har.part")).doesNotExist();
        ledger("import", project.toString(), out.toString());
        assertThat(json(ledger("list", project.toString(), "--json")).path("exchanges"))
                .hasSize(2);
        assertThat(ledger("prune", project.toString(), "--keep", "1").err()).contains("Let 1 exchange go.");
        assertThat(ledger("list", project.toString()).out().lines()).hasSize(1);
        for (int i = 0; i < 100 && !Files.readString(har).endsWith("}}"); i++) {
            Thread.sleep(50);
        }
        JsonNode entries = new ObjectMapper().readTree(har.toFile()).path("log").path("entries");
        assertThat(entries).hasSize(1);
        assertThat(entries.toString()).doesNotContain("not-to-be-seen");
    }

    @Test
    void aTapIsKeptAndStartedByItsNameAndListensWhereThisMachineAllows() throws Exception {
        Run first = new Run(
                "tap",
                project.toString(),
                "--listen",
                "0",
                "--forward",
                service,
                "--keep",
                "Height service",
                "--quiet");
        String address = first.address();
        first.stop("");
        assertThat(project.resolve("taps/height-service.yaml"))
                .content()
                .contains("forward: " + service)
                .contains("port: 0");
        Run again = new Run("tap", project.toString(), "--kept", "height-service");
        assertThat(again.address()).isNotEqualTo(address);
        assertThat(call(again.address(), HttpClient.newHttpClient()).statusCode())
                .isEqualTo(200);
        again.stop("→ 200");
        assertThat(new Run("tap", project.toString(), "--kept", "other")
                        .ended(2)
                        .err())
                .contains("keeps no tap “other”", "height-service");
        Files.writeString(project.resolve("taps/open.yaml"), "forward: " + service + "\nhost: 0.0.0.0\nport: 0\n");
        assertThat(new Run("tap", project.toString(), "--kept", "open").ended(2).err())
                .contains("0.0.0.0");
    }

    @Test
    void aProxySaysWhatPasses() throws Exception {
        Run proxy = new Run("proxy", "--listen", "0");
        URI at = URI.create(proxy.address());
        HttpClient client = HttpClient.newBuilder()
                .proxy(ProxySelector.of(new InetSocketAddress(at.getHost(), at.getPort())))
                .build();
        assertThat(call(service, client).statusCode()).isEqualTo(200);
        proxy.stop("POST");
        assertThat(proxy.err()).contains("POST ").contains(" → 200, ");
    }

    @Test
    void whatCannotBeDoneIsSaid() throws Exception {
        assertThat(new Run("tap", "--forward", "nowhere").ended(2).err()).contains("A tap cannot lead to “nowhere”");
        assertThat(new Run("tap").ended(2).err()).contains("--forward");
        assertThat(new Run("ledger", "list", folder.resolve("none").toString())
                        .ended(2)
                        .err())
                .contains("There is no project there");
        assertThat(new Run("ledger", "list", project.toString(), "--status", "loud")
                        .ended(2)
                        .err())
                .contains("“status:loud” cannot be asked");
        assertThat(new Run("ledger", "show", project.toString(), "99").ended(2).err())
                .contains("There is no exchange 99");
        assertThat(new Run("ledger", "prune", project.toString()).ended(2).err())
                .contains("--keep N");
        Path broken = Files.writeString(folder.resolve("a.har"), "{\"log\":");
        assertThat(new Run("ledger", "import", project.toString(), broken.toString())
                        .ended(2)
                        .err())
                .contains("not whole JSON");
        int port = URI.create(service).getPort();
        assertThat(new Run("tap", "--listen", String.valueOf(port), "--forward", service)
                        .ended(2)
                        .err())
                .contains("Port " + port + " is in use");
        assertThat(List.of(new Run("ledger", "--help").ended(0).out().split("\n")))
                .anyMatch(l -> l.contains("prune"));
    }
}
