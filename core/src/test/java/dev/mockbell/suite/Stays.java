package dev.mockbell.suite;

import dev.mockbell.access.Profile;
import dev.mockbell.check.Capture;
import dev.mockbell.check.Check;
import dev.mockbell.contract.Contract;
import dev.mockbell.contract.Contracts;
import dev.mockbell.expression.Scope;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/** Cases over the stay contract, and the workbench that holds them. */
public final class Stays {
    /** A request that the contract allows. */
    public static final String BODY =
            "<st:Book xmlns:st=\"urn:northfell:stay\"><st:hutId>NF-07</st:hutId><st:nights>2</st:nights>"
                    + "<st:guest><st:name>Ines Okafor</st:name><st:age>34</st:age></st:guest></st:Book>";

    private Stays() {}

    /** An envelope with an answer to Book. */
    public static String answer(String code, String total) {
        return "<e:Envelope xmlns:e=\"http://schemas.xmlsoap.org/soap/envelope/\"><e:Body><s:BookResponse xmlns:s=\"urn:northfell:stay\">"
                + "<s:code>" + code + "</s:code><s:total>" + total
                + "</s:total></s:BookResponse></e:Body></e:Envelope>";
    }

    public static Case book(String id, String body, List<Check> checks, Capture... captures) {
        return new Case(id, id, "", "stay", "Book", "StaySoap11", body, List.of(), checks, List.of(captures));
    }

    /** A workbench over these cases that sends everything to one address. */
    public static Workbench bench(String endpoint, Map<String, String> variables, Case... cases) {
        return bench(endpoint, variables, Optional.empty(), cases);
    }

    /** As {@link #bench(String, Map, Case...)}, with other suites that steps may run. */
    public static Workbench bench(String endpoint, List<Suite> suites, Case... cases) {
        Workbench plain = bench(endpoint, Map.of(), cases);
        Workbench with = org.mockito.Mockito.mock(Workbench.class, org.mockito.AdditionalAnswers.delegatesTo(plain));
        org.mockito.Mockito.doAnswer(call -> suites.stream()
                        .filter(s -> s.id().equals(call.getArgument(0)))
                        .findFirst()
                        .orElseThrow(() -> dev.mockbell.problem.Problem.input("There is no such suite", null, null)))
                .when(with)
                .suite(org.mockito.ArgumentMatchers.anyString());
        return with;
    }

    /** As {@link #bench(String, Map, Case...)}, all of it by a profile. */
    public static Workbench bench(
            String endpoint, Map<String, String> variables, Optional<Profile> profile, Case... cases) {
        Contract contract = Contracts.stay();
        Map<String, Case> all = new LinkedHashMap<>();
        for (Case kept : cases) {
            all.put(kept.reference(), kept);
        }
        return new Workbench() {
            @Override
            public Contract contract(String name) {
                return contract;
            }

            @Override
            public Case kept(String reference) {
                return Optional.ofNullable(all.get(reference))
                        .orElseThrow(
                                () -> dev.mockbell.problem.Problem.input("There is no case " + reference, null, null));
            }

            @Override
            public Optional<String> endpoint(String contractName, String port) {
                return Optional.ofNullable(endpoint);
            }

            @Override
            public Suite suite(String id) {
                return Stays.suite(cases);
            }

            @Override
            public Optional<Profile> profile(Case kept, String port) {
                return profile;
            }

            @Override
            public Scope variables() {
                return Scope.EMPTY.with(variables);
            }

            @Override
            public String environment() {
                return "test";
            }
        };
    }

    /** A suite of the cases, in order. */
    public static Suite suite(Case... cases) {
        return new Suite(
                "s",
                "S",
                java.util.Arrays.stream(cases)
                        .map(c -> Step.call(c.title(), c.reference()))
                        .toList());
    }
}
