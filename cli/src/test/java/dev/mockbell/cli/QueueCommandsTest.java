package dev.mockbell.cli;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mockbell.wire.jms.Broker;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.PrintStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.TimeUnit;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** A contract over queues: mocked, called and checked by the commands, at a real broker. */
class QueueCommandsTest {
    private static Broker broker;

    @TempDir
    Path folder;

    @BeforeAll
    static void start() throws Exception {
        broker = new Broker();
    }

    @AfterAll
    static void stop() {
        broker.close();
    }

    /** What a command said. */
    private record Ran(int exit, String out, String err) {}

    private static Ran run(String... arguments) {
        ByteArrayOutputStream out = new ByteArrayOutputStream();
        ByteArrayOutputStream err = new ByteArrayOutputStream();
        Console console = new Console(
                new PrintStream(out, true, StandardCharsets.UTF_8), new PrintStream(err, true, StandardCharsets.UTF_8));
        int exit = MockBellCommand.commandLine(console).execute(arguments);
        return new Ran(exit, out.toString(StandardCharsets.UTF_8), err.toString(StandardCharsets.UTF_8));
    }

    private Path contract() throws IOException {
        return Files.writeString(
                folder.resolve("peaks.wsdl"),
                CommandsTest.WSDL
                        .formatted("jms:queue:peaks.heights")
                        .replace("http://schemas.xmlsoap.org/soap/http", "http://www.w3.org/2010/soapjms/"));
    }

    @Test
    void aContractOverQueuesIsMockedAndCalled() throws Exception {
        Path wsdl = contract();
        CompletableFuture<Ran> mock = CompletableFuture.supplyAsync(
                () -> run("mock", wsdl.toString(), "--broker", broker.amqp(), "--once", "2"));
        String address = "jms:queue:peaks.heights?jndiURL=" + broker.tcp();
        Ran called = run(
                "call",
                wsdl.toString(),
                "--operation",
                "Height",
                "--endpoint",
                address,
                "--set",
                "/Height/peak=Stag Fell");
        assertThat(called.exit()).isZero();
        assertThat(called.out()).contains("HeightResponse");
        Ran wire = run("call", wsdl.toString(), "--operation", "Height", "--endpoint", address, "--wire");
        assertThat(wire.out())
                .contains("TO queue peaks.heights")
                .contains("SOAPJMS_bindingVersion: 1.0")
                .contains("SOAPJMS_soapAction: urn:height")
                .contains("JMSCorrelationID: ");
        Ran ended = mock.get(30, TimeUnit.SECONDS);
        assertThat(ended.exit()).isZero();
        assertThat(ended.out()).contains("READY jms:queue:peaks.heights");
    }

    @Test
    void whatIsMissingIsSaid() throws IOException {
        Path wsdl = contract();
        Ran nowhere = run("call", wsdl.toString(), "--operation", "Height");
        assertThat(nowhere.exit()).isEqualTo(2);
        assertThat(nowhere.err()).contains("does not say where the broker is");
        Ran gone = run(
                "call",
                wsdl.toString(),
                "--operation",
                "Height",
                "--endpoint",
                "jms:queue:x?jndiURL=tcp://127.0.0.1:1");
        assertThat(gone.exit()).isEqualTo(4);
        assertThat(gone.err()).contains("cannot be reached");
        assertThat(run("mock", wsdl.toString()).err()).contains("does not say where the broker is");
    }
}
