package dev.mockbell.demo;

import com.sun.net.httpserver.HttpContext;
import com.sun.net.httpserver.HttpHandler;
import com.sun.net.httpserver.HttpServer;
import dev.mockbell.demo.fronts.Fronts;
import dev.mockbell.demo.fronts.Keys;
import dev.mockbell.problem.Problem;
import jakarta.xml.ws.Endpoint;
import jakarta.xml.ws.EndpointContext;
import java.io.IOException;
import java.net.BindException;
import java.net.HttpURLConnection;
import java.net.InetAddress;
import java.net.InetSocketAddress;
import java.net.URI;
import java.nio.charset.StandardCharsets;
import java.time.Clock;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import javax.xml.transform.Source;
import javax.xml.transform.stream.StreamSource;

/** The live stand-in: the Northfell services on the loopback address, served by a SOAP stack that others wrote. */
public final class StandIn implements AutoCloseable {
    /** Paths of the services, behind every front. */
    public static final String HUTS = "/hut-booking";

    public static final String HUTS_12 = "/hut-booking-12";
    public static final String TRAILS = "/trail-conditions";

    /** Where it listens unless another program does. */
    public static final int USUAL_PORT = 8471;

    private final HttpServer server;
    private final ExecutorService threads;
    private final List<Endpoint> endpoints;
    private final HutRegister register;
    private final Fronts fronts;
    private final QueueFront queue;

    private StandIn(
            HttpServer server, ExecutorService threads, List<Endpoint> endpoints, HutRegister register, Fronts fronts) {
        this.fronts = fronts;
        this.queue = new QueueFront(
                server.getAddress().getPort() + 20,
                "http://127.0.0.1:" + server.getAddress().getPort() + TRAILS);
        this.server = server;
        this.threads = threads;
        this.endpoints = endpoints;
        this.register = register;
    }

    /**
     * Starts on {@code port}, or on any free one when that is taken or 0.
     *
     * @throws Problem when no port at all can be had
     */
    public static StandIn start(int port, Clock clock) {
        HttpServer server = server(port);
        ExecutorService threads = Executors.newFixedThreadPool(16, task -> {
            Thread thread = new Thread(task, "stand-in");
            thread.setDaemon(true);
            return thread;
        });
        server.setExecutor(threads);
        HutRegister register = new HutRegister();
        Endpoint soap11 = Endpoint.create(new HutServiceSoap11(register, clock));
        Endpoint soap12 = Endpoint.create(new HutServiceSoap12(register, clock));
        List<Endpoint> endpoints = List.of(soap11, soap12);
        Together together = new Together(new LinkedHashSet<>(endpoints));
        endpoints.forEach(e -> {
            e.setEndpointContext(together);
            e.setMetadata(List.of(document("hut-booking.wsdl"), document("hut-booking.xsd")));
        });
        Endpoint trails = Endpoint.create(new TrailService(clock));
        trails.setMetadata(List.of(document("trail-conditions.wsdl"), document("trail-conditions.xsd")));
        // published where nobody listens: the handlers are what stands behind every front
        HttpServer behind = unbound();
        Map<String, HttpHandler> services = new LinkedHashMap<>();
        services.put(HUTS, published(soap11, behind.createContext(HUTS)));
        services.put(HUTS_12, published(soap12, behind.createContext(HUTS_12)));
        services.put(TRAILS, published(trails, behind.createContext(TRAILS)));
        services.forEach(
                (path, service) -> server.createContext(path, path.equals(TRAILS) ? Fronts.named(service) : service));
        server.createContext("/", new ListPage(List.of(HUTS, TRAILS)));
        server.start();
        try {
            Keys keys = Keys.made(clock);
            Fronts fronts =
                    new Fronts(port == 0 ? 0 : server.getAddress().getPort() + 1, keys, services, TRAILS, threads);
            return new StandIn(server, threads, List.of(soap11, soap12, trails), register, fronts);
        } catch (IOException e) {
            throw none(e);
        }
    }

    private static HttpServer unbound() {
        try {
            return HttpServer.create();
        } catch (IOException e) {
            throw none(e);
        }
    }

    private static HttpHandler published(Endpoint endpoint, HttpContext context) {
        endpoint.publish(context);
        return context.getHandler();
    }

    private static Source document(String name) {
        return new StreamSource(StandIn.class.getResource(name).toExternalForm());
    }

    private static HttpServer server(int port) {
        InetAddress loopback = InetAddress.getLoopbackAddress();
        try {
            return HttpServer.create(new InetSocketAddress(loopback, port), 512);
        } catch (BindException taken) {
            try {
                return HttpServer.create(new InetSocketAddress(loopback, 0), 512);
            } catch (IOException e) {
                throw none(e);
            }
        } catch (IOException e) {
            throw none(e);
        }
    }

    private static Problem none(IOException e) {
        return Problem.of(
                Problem.Kind.INPUT, "The stand-in found no port to listen on: " + Problem.reason(e), null, null, e);
    }

    /** Ports of one service know each other, so that the WSDL of one gives the addresses of both. */
    private static final class Together extends EndpointContext {
        private final Set<Endpoint> endpoints;

        Together(Set<Endpoint> endpoints) {
            this.endpoints = endpoints;
        }

        @Override
        public Set<Endpoint> getEndpoints() {
            return endpoints;
        }
    }

    /** Calls each port a few times, so that the first real caller does not pay for what the SOAP stack does once. */
    public void warmUp() {
        String envelope =
                "<e:Envelope xmlns:e=\"%s\"><e:Body><ListAreas xmlns=\"urn:northfell:hut-booking\"/></e:Body></e:Envelope>";
        for (int i = 0; i < 5; i++) {
            post(soap11(), "text/xml", envelope.formatted("http://schemas.xmlsoap.org/soap/envelope/"));
            post(soap12(), "application/soap+xml", envelope.formatted("http://www.w3.org/2003/05/soap-envelope"));
        }
    }

    private static void post(String address, String type, String body) {
        try {
            HttpURLConnection connection =
                    (HttpURLConnection) URI.create(address).toURL().openConnection();
            connection.setDoOutput(true);
            connection.setRequestProperty("Content-Type", type + "; charset=utf-8");
            connection.getOutputStream().write(body.getBytes(StandardCharsets.UTF_8));
            connection.getInputStream().readAllBytes();
        } catch (IOException e) {
            throw Problem.of(
                    Problem.Kind.INPUT, "The stand-in does not answer: " + Problem.reason(e), address, null, e);
        }
    }

    public int port() {
        return server.getAddress().getPort();
    }

    /** The address of the SOAP 1.1 port. */
    public String soap11() {
        return "http://127.0.0.1:" + port() + HUTS;
    }

    /** The address of the SOAP 1.2 port. */
    public String soap12() {
        return "http://127.0.0.1:" + port() + HUTS_12;
    }

    /** The address of the trail conditions, whose messages must say who calls. */
    public String trails() {
        return "http://127.0.0.1:" + port() + TRAILS;
    }

    /** The address of the trail conditions by way of a queue. */
    public String queue() {
        return queue.address();
    }

    /** Whether the queue is served; waits until that is known. */
    public boolean isQueueUp() {
        return queue.isUp();
    }

    /** The same services behind what asks for something. */
    public Fronts fronts() {
        return fronts;
    }

    /** The address of the page that lists what there is. */
    public String page() {
        return "http://127.0.0.1:" + port() + "/";
    }

    public String wsdl() {
        return soap11() + "?wsdl";
    }

    /** How many sightings were reported: the one trace that the one-way operation leaves. */
    public int sightings() {
        return register.sightings();
    }

    @Override
    public void close() {
        endpoints.forEach(Endpoint::stop);
        fronts.close();
        queue.close();
        server.stop(0);
        threads.shutdown();
    }
}
