package dev.mockbell.peers;

import com.sun.xml.ws.spi.ProviderImpl;
import jakarta.xml.ws.Endpoint;
import jakarta.xml.ws.WebServiceFeature;
import jakarta.xml.ws.soap.SOAPBinding;
import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.net.InetAddress;
import java.net.ServerSocket;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.function.Consumer;
import org.apache.axis.configuration.FileProvider;
import org.apache.axis.transport.http.SimpleAxisServer;
import org.apache.cxf.Bus;
import org.apache.cxf.bus.extension.ExtensionManagerBus;
import org.apache.cxf.endpoint.Server;
import org.apache.cxf.feature.Feature;
import org.apache.cxf.jaxws.JaxWsServerFactoryBean;
import org.apache.cxf.ws.security.wss4j.WSS4JInInterceptor;
import org.apache.cxf.ws.security.wss4j.WSS4JOutInterceptor;

/** A service on a SOAP stack of others, at a loopback address of its own. */
record Peer(String wsdl, Runnable stop) implements AutoCloseable {
    /** On the reference implementation of Jakarta XML Web Services. */
    static Peer metro(Object service, WebServiceFeature... features) {
        String address = address();
        Endpoint endpoint = new ProviderImpl().createEndpoint(bindingOf(service), service, features);
        endpoint.publish(address);
        return new Peer(address + "?wsdl", endpoint::stop);
    }

    /** On Apache CXF. */
    static Peer cxf(Object service) {
        return cxf(service, Map.of());
    }

    /** On Apache CXF, taking and giving binary values as parts. */
    static Peer cxfWithParts(Object service) {
        return cxf(service, Map.of(), Map.of("mtom-enabled", true));
    }

    /** On Apache CXF, asking for WS-Security as its interceptor is told. */
    static Peer cxf(Object service, Map<String, Object> security) {
        return cxf(service, security, Map.of());
    }

    /** On Apache CXF, asking for WS-Security and taking parts. */
    static Peer cxfWithParts(Object service, Map<String, Object> security) {
        return cxf(service, security, Map.of("mtom-enabled", true));
    }

    /** On Apache CXF, asking for WS-Security and answering with it. */
    static Peer cxfBothWays(Object service, Map<String, Object> in, Map<String, Object> out) {
        return cxf(service, in, Map.of(), f -> f.getOutInterceptors().add(new WSS4JOutInterceptor(out)));
    }

    /** On Apache CXF, with what it calls features. */
    static Peer cxfWith(Object service, Feature... features) {
        return cxf(service, Map.of(), Map.of(), f -> f.getFeatures().addAll(List.of(features)));
    }

    private static Peer cxf(Object service, Map<String, Object> security, Map<String, Object> properties) {
        return cxf(service, security, properties, f -> {});
    }

    private static Peer cxf(
            Object service,
            Map<String, Object> security,
            Map<String, Object> properties,
            Consumer<JaxWsServerFactoryBean> more) {
        String address = address();
        Bus bus = new ExtensionManagerBus();
        JaxWsServerFactoryBean factory = new JaxWsServerFactoryBean();
        factory.setBus(bus);
        factory.setServiceBean(service);
        factory.setAddress(address);
        factory.setProperties(new HashMap<>(properties));
        if (!security.isEmpty()) {
            factory.getInInterceptors().add(new WSS4JInInterceptor(security));
        }
        more.accept(factory);
        Server server = factory.create();
        return new Peer(address + "?wsdl", () -> {
            server.destroy();
            bus.shutdown(true);
        });
    }

    /** On Apache Axis 1.4, as the deployment in {@code encoded.wsdd} says. */
    static Peer axis(String service) {
        try (InputStream deployment = Peer.class.getResourceAsStream("encoded.wsdd")) {
            SimpleAxisServer server = new SimpleAxisServer();
            // it reads its deployment when the first request comes
            server.setMyConfig(new FileProvider(new ByteArrayInputStream(deployment.readAllBytes())));
            ServerSocket socket = new ServerSocket(0, 50, InetAddress.getLoopbackAddress());
            server.setServerSocket(socket);
            server.start();
            return new Peer(
                    "http://127.0.0.1:" + socket.getLocalPort() + "/axis/services/" + service + "?wsdl", server::stop);
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        } catch (Exception e) {
            throw new IllegalStateException(e);
        }
    }

    private static String bindingOf(Object service) {
        var type = service.getClass().getAnnotation(jakarta.xml.ws.BindingType.class);
        return type == null ? SOAPBinding.SOAP11HTTP_BINDING : type.value();
    }

    private static String address() {
        try (ServerSocket free = new ServerSocket(0, 1, InetAddress.getLoopbackAddress())) {
            return "http://127.0.0.1:" + free.getLocalPort() + "/peer";
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    @Override
    public void close() {
        stop.run();
    }
}
