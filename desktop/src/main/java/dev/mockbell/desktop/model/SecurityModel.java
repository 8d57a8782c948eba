package dev.mockbell.desktop.model;

import dev.mockbell.access.Demands;
import dev.mockbell.access.Profile;
import dev.mockbell.expression.Scope;
import dev.mockbell.expression.Variable;
import dev.mockbell.problem.Problem;
import dev.mockbell.project.Environment;
import dev.mockbell.project.ProjectBench;
import dev.mockbell.suite.Case;
import dev.mockbell.task.StopSignal;
import dev.mockbell.wire.ShownCertificate;
import dev.mockbell.wire.Trust;
import dev.mockbell.wire.jms.JmsAddress;
import java.net.URI;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.function.Consumer;
import java.util.function.UnaryOperator;
import javafx.beans.InvalidationListener;

/** The security profiles of the project, and which of them the current case calls by. */
public final class SecurityModel {
    private final Desk desk;
    private final CallModel call;

    SecurityModel(Desk desk, CallModel call) {
        this.desk = desk;
        this.call = call;
    }

    /** Runs whenever a profile, or what picks one, may have changed. */
    public void onChange(Runnable action) {
        desk.projectProperty().addListener((InvalidationListener) o -> action.run());
    }

    /** All of the project, in their order. */
    public List<Profile> profiles() {
        return desk.project().settings().profiles();
    }

    /** What the case itself picks: a name, {@link ProjectBench#NOBODY}, or nothing to go by the environment. */
    public String picked() {
        Case now = call.currentProperty().get();
        return now == null ? "" : now.security();
    }

    /** What the environment picks for the endpoint; empty for none. */
    public String byEnvironment() {
        OperationPlace place = desk.placeProperty().get();
        return place == null || call.bound().isEmpty()
                ? ""
                : desk.project()
                        .current()
                        .security(
                                place.contract().name(),
                                call.bound().get().port().name());
    }

    /** The environment's name. */
    public String environment() {
        return desk.project().current() == Environment.NONE
                ? "Local"
                : desk.project().current().name();
    }

    /** The profile that the case is called by; empty for none. */
    public Optional<Profile> current() {
        String name = picked().isEmpty() ? byEnvironment() : picked();
        return desk.project().profile(name);
    }

    /** The case goes by that from now on. */
    public void pick(String name) {
        Case now = call.currentProperty().get();
        if (now != null && !now.security().equals(name)) {
            call.settle();
            call.keep(call.currentProperty().get().withSecurity(name));
        }
    }

    /** Whatever goes to the endpoint in this environment goes by that, unless a case says otherwise. */
    public void pickForEnvironment(String name) {
        OperationPlace place = desk.placeProperty().get();
        call.bound()
                .ifPresent(b -> desk.change(
                        p -> p.withSecurity(place.contract().name(), b.port().name(), name)));
        pick("");
    }

    /** Makes a profile, which the case then goes by. */
    public void add() {
        String name = free("Profile");
        desk.change(p -> p.withProfile(Profile.named(name)));
        pick(name);
    }

    /** What the policy of the contract demands of the operation; empty for nothing that a profile gives. */
    public List<String> demanded() {
        return call.bound().map(b -> Demands.known(b.operation().needs())).orElse(List.of());
    }

    /** Makes a profile of what the contract demands, to be filled in, which whatever goes to the endpoint then goes by. */
    public void addDemanded() {
        String name = free(desk.placeProperty().get().contract().title());
        List<String> demanded = demanded();
        desk.change(p -> p.withProfile(Demands.profile(name, demanded)));
        pickForEnvironment(name);
    }

    private String free(String wanted) {
        String name = wanted;
        for (int i = 2; desk.project().profile(name).isPresent(); i++) {
            name = wanted + " " + i;
        }
        return name;
    }

    /** Changes a profile as it is by now; nothing when it is gone. */
    public void edit(String name, UnaryOperator<Profile> change) {
        desk.project()
                .profile(name)
                .map(change)
                .filter(changed -> !desk.project().profile(name).equals(Optional.of(changed)))
                .ifPresent(changed -> desk.change(p -> p.withProfile(changed)));
    }

    /**
     * Gives a profile another name wherever it is picked by the environments and the current case.
     *
     * @return whether the name can be one; otherwise the user is told why not
     */
    public boolean rename(Profile profile, String given) {
        String name = given.strip();
        if (name.equals(profile.name())) {
            return true;
        }
        if (name.isEmpty()
                || name.equals(ProjectBench.NOBODY)
                || desk.project().profile(name).isPresent()) {
            desk.tell(Notice.bad(
                    name.isEmpty() ? "A profile needs a name." : "“" + name + "” is taken; choose another name."));
            return false;
        }
        List<Case> using = desk.project().cases().stream()
                .filter(c -> c.security().equals(profile.name()))
                .toList();
        desk.change(p -> p.withProfileNamed(profile.name(), name));
        using.forEach(c -> desk.change(p -> p.withCase(c.withSecurity(name))));
        if (picked().equals(profile.name())) {
            pick(name);
        }
        return true;
    }

    /** Takes a profile away. */
    public void remove(Profile profile) {
        if (picked().equals(profile.name())) {
            pick("");
        }
        desk.steps()
                .tells("Deleted the security profile “" + profile.name() + "”.", p -> p.withoutProfile(profile.name()));
    }

    /** Trusts a certificate by its fingerprint; tells of one that is none. */
    public boolean trust(Profile profile, String fingerprint) {
        try {
            Trust.plain(fingerprint);
            edit(profile.name(), p -> p.trusting(fingerprint.strip()));
            return true;
        } catch (Problem problem) {
            desk.tell(problem);
            return false;
        }
    }

    /**
     * Asks the server of an address for its certificate.
     *
     * @param failed runs when it shows none, which is told, or when it was stopped
     * @return ends the wait
     */
    public StopSignal look(URI address, Consumer<ShownCertificate> done, Runnable failed) {
        StopSignal stop = new StopSignal();
        Optional<Profile> profile = current();
        Scope scope = call.scope();
        desk.tasks()
                .run(
                        () -> ShownCertificate.ask(
                                address,
                                desk.caller()
                                        .by(
                                                profile,
                                                address,
                                                scope,
                                                desk.bench().folder()),
                                stop),
                        done,
                        problem -> {
                            if (!stop.isStopped()) {
                                desk.tell(problem);
                            }
                            failed.run();
                        });
        return stop;
    }

    /**
     * Trusts a certificate for the endpoint: in the profile that the case is called by, or in a new one for the endpoint.
     *
     * @return the profile's name
     */
    public String trustForEndpoint(URI address, ShownCertificate shown) {
        Optional<Profile> now = current();
        if (now.isPresent()) {
            edit(now.get().name(), p -> p.trusting(shown.fingerprint()));
            return now.get().name();
        }
        String name = free(JmsAddress.hostOf(address));
        desk.change(p -> p.withProfile(Profile.named(name).trusting(shown.fingerprint())));
        pickForEnvironment(name);
        return name;
    }

    /**
     * Keeps a password on this machine, under a secret variable of the project.
     *
     * @param what it opens, for the variable's name
     * @return what stands for it in the profile
     */
    public String secret(Profile profile, String what, String value) {
        String name = (profile.name() + "-" + what)
                .toLowerCase(Locale.ROOT)
                .replaceAll("[^\\p{L}\\p{N}]+", "-")
                .replaceAll("^-|-$", "");
        List<Variable> variables = new ArrayList<>(desk.project().settings().variables());
        variables.removeIf(v -> v.name().equals(name));
        variables.add(new Variable(name, "", true));
        desk.keepVariables(variables, desk.project().current().variables(), Map.of(name, value));
        return "{$secret:" + name + "}";
    }
}
