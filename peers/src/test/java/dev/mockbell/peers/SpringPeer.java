package dev.mockbell.peers;

import jakarta.servlet.http.HttpServlet;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.io.StringReader;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.Base64;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import javax.xml.transform.TransformerFactory;
import javax.xml.transform.dom.DOMResult;
import javax.xml.transform.stream.StreamSource;
import org.apache.catalina.Context;
import org.apache.catalina.LifecycleException;
import org.apache.catalina.authenticator.AuthenticatorBase;
import org.apache.catalina.authenticator.BasicAuthenticator;
import org.apache.catalina.authenticator.DigestAuthenticator;
import org.apache.catalina.connector.Connector;
import org.apache.catalina.startup.Tomcat;
import org.apache.tomcat.util.descriptor.web.LoginConfig;
import org.apache.tomcat.util.descriptor.web.SecurityCollection;
import org.apache.tomcat.util.descriptor.web.SecurityConstraint;
import org.apache.tomcat.util.net.SSLHostConfig;
import org.apache.tomcat.util.net.SSLHostConfigCertificate;
import org.springframework.context.support.StaticApplicationContext;
import org.springframework.ws.context.MessageContext;
import org.springframework.ws.server.EndpointInterceptor;
import org.springframework.ws.server.EndpointMapping;
import org.springframework.ws.server.endpoint.MessageEndpoint;
import org.springframework.ws.server.endpoint.adapter.MessageEndpointAdapter;
import org.springframework.ws.server.endpoint.mapping.PayloadRootQNameEndpointMapping;
import org.springframework.ws.soap.SoapVersion;
import org.springframework.ws.soap.addressing.server.SimpleActionEndpointMapping;
import org.springframework.ws.soap.saaj.SaajSoapMessage;
import org.springframework.ws.soap.saaj.SaajSoapMessageFactory;
import org.springframework.ws.soap.server.SoapMessageDispatcher;
import org.springframework.ws.transport.http.WebServiceMessageReceiverHandlerAdapter;
import org.w3c.dom.Document;
import org.w3c.dom.Element;

/** A service on Spring Web Services in Tomcat, at a loopback address of its own. */
final class SpringPeer implements AutoCloseable {
    static final String WSDL = """
            <definitions name="Maps" targetNamespace="urn:maps:s" xmlns="http://schemas.xmlsoap.org/wsdl/" xmlns:tns="urn:maps:s"
              xmlns:m="urn:maps" xmlns:soap="http://schemas.xmlsoap.org/wsdl/soap%1$s/" xmlns:xs="http://www.w3.org/2001/XMLSchema">
              <types><xs:schema targetNamespace="urn:maps" elementFormDefault="qualified">
                <xs:element name="Copy"><xs:complexType><xs:sequence><xs:element name="map" type="xs:base64Binary"/></xs:sequence></xs:complexType></xs:element>
                <xs:element name="CopyResponse"><xs:complexType><xs:sequence><xs:element name="map" type="xs:base64Binary"/><xs:element name="part" type="xs:boolean"/></xs:sequence></xs:complexType></xs:element>
              </xs:schema></types>
              <message name="In"><part name="b" element="m:Copy"/></message><message name="Out"><part name="b" element="m:CopyResponse"/></message>
              <portType name="PT"><operation name="Copy"><input message="tns:In"/><output message="tns:Out"/></operation></portType>
              <binding name="B" type="tns:PT"><soap:binding transport="http://schemas.xmlsoap.org/soap/http"/>
                <operation name="Copy"><soap:operation soapAction="urn:maps:copy"/><input><soap:body use="literal"/></input><output><soap:body use="literal"/></output></operation></binding>
              <service name="Maps"><port name="Maps" binding="tns:B"><soap:address location="%2$s"/></port></service>
            </definitions>""";

    private final Tomcat tomcat = new Tomcat();
    private final boolean soap12;
    private final String scheme;

    private SpringPeer(boolean soap12, String scheme) {
        this.soap12 = soap12;
        this.scheme = scheme;
    }

    /** What it asks for beside the message. */
    record Asking(Optional<AuthenticatorBase> login, boolean compressing, Optional<Path> tls) {
        static final Asking NOTHING = new Asking(Optional.empty(), false, Optional.empty());

        static Asking basic() {
            return new Asking(Optional.of(new BasicAuthenticator()), false, Optional.empty());
        }

        static Asking digest() {
            return new Asking(Optional.of(new DigestAuthenticator()), false, Optional.empty());
        }

        static Asking compression() {
            return new Asking(Optional.empty(), true, Optional.empty());
        }

        /** TLS as {@code localhost}, for a client of {@code trusted.p12}; both in a folder. */
        static Asking certificate(Path folder) {
            return new Asking(Optional.empty(), false, Optional.of(folder));
        }
    }

    static SpringPeer start(
            Path folder, boolean soap12, boolean addressing, Asking asking, EndpointInterceptor... interceptors)
            throws Exception {
        SpringPeer peer = new SpringPeer(soap12, asking.tls().isPresent() ? "https" : "http");
        Tomcat tomcat = peer.tomcat;
        tomcat.setBaseDir(folder.resolve("tomcat").toString());
        Connector connector = new Connector();
        connector.setPort(0);
        connector.setProperty("address", "127.0.0.1");
        if (asking.compressing()) {
            connector.setProperty("compression", "force");
        }
        asking.tls().ifPresent(keys -> secure(connector, keys));
        tomcat.setConnector(connector);
        Context context = tomcat.addContext("", folder.toString());
        Tomcat.addServlet(context, "ws", new Receiving(peer, dispatcher(addressing, interceptors)));
        context.addServletMappingDecoded("/*", "ws");
        asking.login().ifPresent(login -> guard(tomcat, context, login));
        tomcat.start();
        return peer;
    }

    private static void secure(Connector connector, Path keys) {
        connector.setScheme("https");
        connector.setSecure(true);
        connector.setProperty("SSLEnabled", "true");
        SSLHostConfig host = new SSLHostConfig();
        host.setCertificateVerification("required");
        host.setTruststoreFile(keys.resolve("trusted.p12").toString());
        host.setTruststorePassword("changeit");
        host.setTruststoreType("PKCS12");
        SSLHostConfigCertificate own = new SSLHostConfigCertificate(host, SSLHostConfigCertificate.Type.UNDEFINED);
        own.setCertificateKeystoreFile(keys.resolve("localhost.p12").toString());
        own.setCertificateKeystorePassword("changeit");
        own.setCertificateKeystoreType("PKCS12");
        host.addCertificate(own);
        connector.addSslHostConfig(host);
    }

    private static void guard(Tomcat tomcat, Context context, AuthenticatorBase login) {
        tomcat.addUser("anna", "open sesame");
        tomcat.addRole("anna", "guest");
        SecurityCollection all = new SecurityCollection();
        all.addPattern("/*");
        all.addMethod("POST");
        SecurityConstraint guests = new SecurityConstraint();
        guests.addAuthRole("guest");
        guests.addCollection(all);
        context.addConstraint(guests);
        context.addSecurityRole("guest");
        context.setLoginConfig(
                new LoginConfig(login instanceof BasicAuthenticator ? "BASIC" : "DIGEST", "maps", null, null));
        context.getPipeline().addValve(login);
    }

    private static SoapMessageDispatcher dispatcher(boolean addressing, EndpointInterceptor... interceptors)
            throws Exception {
        Copying copying = new Copying();
        EndpointMapping mapping;
        if (addressing) {
            SimpleActionEndpointMapping byAction = new SimpleActionEndpointMapping();
            byAction.setApplicationContext(new StaticApplicationContext());
            byAction.setActionMap(Map.of("urn:maps:copy", copying));
            byAction.afterPropertiesSet();
            mapping = byAction;
        } else {
            PayloadRootQNameEndpointMapping byName = new PayloadRootQNameEndpointMapping();
            byName.setDefaultEndpoint(copying);
            byName.setInterceptors(interceptors);
            mapping = byName;
        }
        SoapMessageDispatcher dispatcher = new SoapMessageDispatcher();
        dispatcher.setEndpointMappings(List.of(mapping));
        dispatcher.setEndpointAdapters(List.of(new MessageEndpointAdapter()));
        return dispatcher;
    }

    String wsdl() {
        return address() + "?wsdl";
    }

    private String address() {
        return scheme + "://localhost:" + tomcat.getConnector().getLocalPort() + "/maps";
    }

    /** Copies what came, and says whether it was a part. */
    private static final class Copying implements MessageEndpoint {
        @Override
        public void invoke(MessageContext context) throws Exception {
            SaajSoapMessage request = (SaajSoapMessage) context.getRequest();
            DOMResult read = new DOMResult();
            TransformerFactory.newInstance().newTransformer().transform(request.getPayloadSource(), read);
            Element root = ((Document) read.getNode()).getDocumentElement();
            Element include = (Element) root.getElementsByTagNameNS("http://www.w3.org/2004/08/xop/include", "Include")
                    .item(0);
            String map = root.getTextContent().strip();
            if (include != null) {
                String id = include.getAttribute("href").substring(4).replace("%40", "@");
                map = Base64.getEncoder()
                        .encodeToString(request.getAttachment("<" + id + ">")
                                .getInputStream()
                                .readAllBytes());
            }
            String answer = "<m:CopyResponse xmlns:m=\"urn:maps\"><m:map>" + map + "</m:map><m:part>"
                    + (include != null) + "</m:part></m:CopyResponse>";
            SaajSoapMessage response = (SaajSoapMessage) context.getResponse();
            TransformerFactory.newInstance()
                    .newTransformer()
                    .transform(new StreamSource(new StringReader(answer)), response.getPayloadResult());
        }
    }

    /** Gives the contract, and calls to the dispatcher. */
    private static final class Receiving extends HttpServlet {
        private static final long serialVersionUID = 1L;

        private final transient SpringPeer peer;
        private final transient SoapMessageDispatcher dispatcher;
        private final transient WebServiceMessageReceiverHandlerAdapter adapter =
                new WebServiceMessageReceiverHandlerAdapter();

        Receiving(SpringPeer peer, SoapMessageDispatcher dispatcher) {
            this.peer = peer;
            this.dispatcher = dispatcher;
            SaajSoapMessageFactory factory = new SaajSoapMessageFactory();
            factory.setSoapVersion(peer.soap12 ? SoapVersion.SOAP_12 : SoapVersion.SOAP_11);
            factory.afterPropertiesSet();
            adapter.setMessageFactory(factory);
        }

        @Override
        protected void service(HttpServletRequest request, HttpServletResponse response) throws IOException {
            if ("GET".equals(request.getMethod())) {
                response.setContentType("text/xml;charset=utf-8");
                response.getOutputStream()
                        .write(WSDL.formatted(peer.soap12 ? "12" : "", peer.address())
                                .getBytes(StandardCharsets.UTF_8));
                return;
            }
            try {
                adapter.handle(request, response, dispatcher);
            } catch (IOException | RuntimeException e) {
                throw e;
            } catch (Exception e) {
                throw new IOException(e);
            }
        }
    }

    @Override
    public void close() {
        try {
            tomcat.stop();
            tomcat.destroy();
        } catch (LifecycleException e) {
            throw new IllegalStateException(e);
        }
    }
}
