package dev.mockbell.mock;

import dev.mockbell.contract.Contract;
import dev.mockbell.contract.Contracts;
import dev.mockbell.exchange.Exchange;
import dev.mockbell.expression.Expressions;
import dev.mockbell.file.Inside;
import dev.mockbell.soap.Envelope;
import dev.mockbell.soap.SoapVersion;
import dev.mockbell.wire.EventLoops;
import dev.mockbell.wire.HttpCaller;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.net.Socket;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpRequest.BodyPublishers;
import java.net.http.HttpResponse;
import java.net.http.HttpResponse.BodyHandlers;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.time.Duration;
import java.util.List;
import java.util.concurrent.CopyOnWriteArrayList;

/** A mock of the stay contract, and a client that calls it. */
final class MockUnderTest implements AutoCloseable {
    private final EventLoops loops = new EventLoops("test", 2);
    private final HttpCaller onward = new HttpCaller();
    private final HttpClient client = HttpClient.newHttpClient();
    final Contract stay = Contracts.stay();
    final List<Exchange> recorded = new CopyOnWriteArrayList<>();
    MockHost host;

    /** Starts it with the answers of Book. */
    MockUnderTest answering(MockAnswer... answers) {
        return start(MockPlan.sampling("stay", 0).withAnswers("Book", List.of(answers)), null);
    }

    MockUnderTest start(MockPlan plan, Path folder) {
        MockSurroundings around = MockSurroundings.alone(
                        loops, new Expressions(), made -> recorded.add(made.get()), e -> {})
                .with((request, stop) -> onward.call(request, stop));
        host = MockHost.start(stay, plan, folder == null ? around : around.with(new Inside(folder)));
        return this;
    }

    static String book(String hut, int nights) {
        return "<st:Book xmlns:st=\"urn:northfell:stay\"><st:hutId>" + hut + "</st:hutId><st:nights>" + nights
                + "</st:nights><st:guest><st:name>Ines Okafor</st:name><st:age>34</st:age></st:guest>"
                + "<st:guest><st:name>Tor Lund</st:name><st:age>41</st:age></st:guest></st:Book>";
    }

    HttpResponse<String> call(String payload, String... headers) {
        return call(SoapVersion.V11, payload, headers);
    }

    HttpResponse<String> call(SoapVersion version, String payload, String... headers) {
        return send(version, Envelope.around(version, payload, List.of()), headers);
    }

    /** With header blocks of SOAP. */
    HttpResponse<String> post(SoapVersion version, String payload, String... blocks) {
        return send(version, Envelope.around(version, payload, List.of(blocks)));
    }

    private HttpResponse<String> send(SoapVersion version, String envelope, String... headers) {
        HttpRequest.Builder request = HttpRequest.newBuilder(
                        URI.create(host.addresses().values().iterator().next()))
                .timeout(Duration.ofSeconds(60))
                .header("Content-Type", version.contentType(""))
                .POST(BodyPublishers.ofString(envelope));
        for (int i = 0; i < headers.length; i += 2) {
            request.header(headers[i], headers[i + 1]);
        }
        try {
            return client.send(request.build(), BodyHandlers.ofString());
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        } catch (InterruptedException e) {
            throw new IllegalStateException(e);
        }
    }

    /** What is in an answer's only element of that name. */
    static String value(HttpResponse<String> answer, String name) {
        return answer.body().replaceAll("(?s).*<(\\w+:)?" + name + "[^>]*>([^<]*)<.*", "$2");
    }

    /** A plain connection, for what a client of HTTP does not show. */
    Socket connected() throws IOException {
        Socket socket = new Socket("127.0.0.1", host.port());
        socket.setSoTimeout(10_000);
        return socket;
    }

    byte[] request(String payload, String... fields) {
        byte[] body = Envelope.around(SoapVersion.V11, payload, List.of()).getBytes(StandardCharsets.UTF_8);
        StringBuilder head = new StringBuilder("POST /stay HTTP/1.1\r\nHost: h\r\nContent-Type: text/xml\r\n");
        for (String field : fields) {
            head.append(field).append("\r\n");
        }
        head.append("Content-Length: ").append(body.length).append("\r\n\r\n");
        return (head + new String(body, StandardCharsets.UTF_8)).getBytes(StandardCharsets.UTF_8);
    }

    @Override
    public void close() {
        if (host != null) {
            host.close();
        }
        loops.close();
        onward.close();
    }
}
