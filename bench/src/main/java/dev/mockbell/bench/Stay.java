package dev.mockbell.bench;

import dev.mockbell.contract.Contract;
import dev.mockbell.contract.ContractReader;
import dev.mockbell.contract.DocumentFetcher;
import dev.mockbell.expression.Scope;
import dev.mockbell.suite.Case;
import dev.mockbell.suite.Step;
import dev.mockbell.suite.Suite;
import dev.mockbell.suite.Workbench;
import dev.mockbell.task.Progress;
import dev.mockbell.task.StopSignal;
import java.net.URI;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Optional;

/** A small contract with a request and an answer of ordinary size, for every benchmark. */
final class Stay {
    static final String PAYLOAD = "<st:Book xmlns:st=\"urn:stay\"><st:hutId>NF-07</st:hutId><st:nights>2</st:nights>"
            + "<st:guest>Ines Okafor</st:guest><st:guest>Tomas Lindqvist</st:guest></st:Book>";
    static final String ANSWER =
            "<e:Envelope xmlns:e=\"http://schemas.xmlsoap.org/soap/envelope/\"><e:Body><s:BookResponse xmlns:s=\"urn:stay\">"
                    + "<s:code>R-20418</s:code><s:hut>Skarn Tarn Hut</s:hut><s:total>184.50</s:total></s:BookResponse></e:Body></e:Envelope>";
    private static final String WSDL = """
            <definitions name="Stay" targetNamespace="urn:stay:s" xmlns="http://schemas.xmlsoap.org/wsdl/" xmlns:tns="urn:stay:s"
              xmlns:st="urn:stay" xmlns:soap="http://schemas.xmlsoap.org/wsdl/soap/" xmlns:xs="http://www.w3.org/2001/XMLSchema">
              <types><xs:schema targetNamespace="urn:stay" elementFormDefault="qualified">
                <xs:element name="Book"><xs:complexType><xs:sequence><xs:element name="hutId" type="xs:string"/><xs:element name="nights" type="xs:int"/>
                  <xs:element name="guest" type="xs:string" maxOccurs="6"/></xs:sequence></xs:complexType></xs:element>
                <xs:element name="BookResponse"><xs:complexType><xs:sequence><xs:element name="code" type="xs:string"/><xs:element name="hut" type="xs:string"/>
                  <xs:element name="total" type="xs:decimal"/></xs:sequence></xs:complexType></xs:element>
              </xs:schema></types>
              <message name="In"><part name="b" element="st:Book"/></message><message name="Out"><part name="b" element="st:BookResponse"/></message>
              <portType name="PT"><operation name="Book"><input message="tns:In"/><output message="tns:Out"/></operation></portType>
              <binding name="B" type="tns:PT"><soap:binding transport="http://schemas.xmlsoap.org/soap/http"/>
                <operation name="Book"><soap:operation soapAction="urn:book"/><input><soap:body use="literal"/></input><output><soap:body use="literal"/></output></operation></binding>
              <service name="Stay"><port name="StayPort" binding="tns:B"><soap:address location="http://127.0.0.1:1/stay"/></port></service>
            </definitions>""";

    private Stay() {}

    static Contract contract() {
        DocumentFetcher fetcher =
                (uri, stop) -> new DocumentFetcher.Fetched(uri, WSDL.getBytes(StandardCharsets.UTF_8), "");
        return new ContractReader(fetcher).read("stay", URI.create("mem:/stay"), Progress.NONE, new StopSignal());
    }

    static Case kept() {
        return new Case("c", "Book", "", "stay", "Book", "", PAYLOAD, List.of(), List.of(), List.of());
    }

    static Suite suite() {
        return new Suite("s", "S", List.of(Step.call("Book", kept().reference())));
    }

    static Workbench bench(String endpoint) {
        Contract contract = contract();
        return new Workbench() {
            @Override
            public Contract contract(String name) {
                return contract;
            }

            @Override
            public Case kept(String reference) {
                return Stay.kept();
            }

            @Override
            public Suite suite(String id) {
                return Stay.suite();
            }

            @Override
            public Optional<String> endpoint(String contractName, String port) {
                return Optional.of(endpoint);
            }

            @Override
            public Scope variables() {
                return Scope.EMPTY;
            }

            @Override
            public String environment() {
                return "";
            }
        };
    }
}
