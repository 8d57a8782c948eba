package dev.mockbell.contract;

import dev.mockbell.task.Progress;
import dev.mockbell.task.StopSignal;
import java.net.URI;
import java.nio.charset.StandardCharsets;
import java.util.LinkedHashMap;
import java.util.Map;

/** Contracts for tests: the one in the resources, and ones made of documents in memory. */
public final class Contracts {
    private Contracts() {}

    /** The stay contract of the test resources. */
    public static Contract stay() {
        try {
            URI uri = Contracts.class.getResource("/contracts/stay.wsdl").toURI();
            return new ContractReader(DocumentFetcher.files(1 << 20))
                    .read("stay.wsdl", uri, Progress.NONE, new StopSignal());
        } catch (java.net.URISyntaxException e) {
            throw new IllegalStateException(e);
        }
    }

    /** Reads the first document; the others can be imported by {@code mem:/name}. */
    public static Contract of(String... namesAndTexts) {
        Map<String, String> documents = new LinkedHashMap<>();
        for (int i = 0; i < namesAndTexts.length; i += 2) {
            documents.put("mem:/" + namesAndTexts[i], namesAndTexts[i + 1]);
        }
        DocumentFetcher fetcher = (uri, stop) -> {
            String text = documents.get(uri.toString());
            if (text == null) {
                throw dev.mockbell.problem.Problem.input(
                        "There is no such file", uri.toString(), "Check the spelling.");
            }
            return new DocumentFetcher.Fetched(uri, text.getBytes(StandardCharsets.UTF_8), "");
        };
        String first = documents.keySet().iterator().next();
        return new ContractReader(fetcher).read(first, URI.create(first), Progress.NONE, new StopSignal());
    }

    /** A WSDL with these schemas inside and an operation that takes and gives {@code t:Root}. */
    public static String wsdl(String types) {
        return """
                <definitions targetNamespace="urn:t:service" xmlns="http://schemas.xmlsoap.org/wsdl/" xmlns:tns="urn:t:service"
                  xmlns:t="urn:t" xmlns:soap="http://schemas.xmlsoap.org/wsdl/soap/" xmlns:xs="http://www.w3.org/2001/XMLSchema">
                  <types>%s</types>
                  <message name="M"><part name="p" element="t:Root"/></message>
                  <portType name="P"><operation name="Do"><input message="tns:M"/><output message="tns:M"/></operation></portType>
                  <binding name="B" type="tns:P">
                    <soap:binding transport="http://schemas.xmlsoap.org/soap/http"/>
                    <operation name="Do"><soap:operation soapAction="do"/><input><soap:body use="literal"/></input>
                      <output><soap:body use="literal"/></output></operation>
                  </binding>
                  <service name="S"><port name="Port" binding="tns:B"><soap:address location="http://127.0.0.1:1/t"/></port></service>
                </definitions>""".formatted(types);
    }

    /** A schema for {@code urn:t} with this inside. */
    public static String schema(String inside) {
        return "<xs:schema xmlns:xs='http://www.w3.org/2001/XMLSchema' xmlns:t='urn:t' targetNamespace='urn:t' "
                + "elementFormDefault='qualified'>" + inside + "</xs:schema>";
    }
}
