package dev.mockbell.suite;

import dev.mockbell.access.Profile;
import dev.mockbell.contract.Contract;
import dev.mockbell.contract.Contract.BoundOperation;
import dev.mockbell.expression.Braces;
import dev.mockbell.expression.Scope;
import dev.mockbell.file.Inside;
import dev.mockbell.message.MessageOutline;
import dev.mockbell.request.Attachment;
import dev.mockbell.request.PartText;
import dev.mockbell.request.RequestSource;
import dev.mockbell.wire.CallRequest;
import java.nio.file.Path;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.BiFunction;

/**
 * All that the call of a case depends on.
 *
 * @param endpoint where to; empty for the address in the contract
 * @param scope values for its expressions
 * @param profile by which it is called; empty for none
 * @param folder that the files of profile and case are in
 * @param parts files that go along beside those of the case
 * @param timeout for all of it
 */
public record CallSetup(
        Contract contract,
        BoundOperation bound,
        Case kept,
        Optional<String> endpoint,
        Scope scope,
        Optional<Profile> profile,
        Path folder,
        List<Attachment> parts,
        Duration timeout) {
    /** One as project and environment say. */
    public static CallSetup of(Workbench bench, Case kept, Scope scope) {
        Contract contract = bench.contract(kept.contract());
        BoundOperation bound = kept.in(contract);
        String port = bound.port().name();
        return new CallSetup(
                contract,
                bound,
                kept,
                Optional.of(kept.delivery().endpoint())
                        .filter(e -> !e.isBlank())
                        .or(() -> bench.endpoint(kept.contract(), port)),
                scope,
                bench.profile(kept, port),
                bench.folder(),
                List.of(),
                kept.delivery().waiting().wholeOr(CallRequest.USUAL_TIMEOUT));
    }

    /** One without a project: straight to an address, by nobody. */
    public static CallSetup plain(Contract contract, BoundOperation bound, Case kept, Optional<String> endpoint) {
        return new CallSetup(
                contract,
                bound,
                kept,
                endpoint,
                Scope.EMPTY,
                Optional.empty(),
                Path.of(""),
                List.of(),
                CallRequest.USUAL_TIMEOUT);
    }

    /** With the case changed. */
    CallSetup of(Case changed) {
        return new CallSetup(contract, bound, changed, endpoint, scope, profile, folder, parts, timeout);
    }

    /** Going elsewhere. */
    public CallSetup to(String address) {
        return new CallSetup(contract, bound, kept, Optional.of(address), scope, profile, folder, parts, timeout);
    }

    /** By another profile. */
    public CallSetup by(Optional<Profile> other) {
        return new CallSetup(contract, bound, kept, endpoint, scope, other, folder, parts, timeout);
    }

    /** With more parts. */
    public CallSetup with(List<Attachment> more) {
        return new CallSetup(contract, bound, kept, endpoint, scope, profile, folder, more, timeout);
    }

    /** Waiting longer or shorter. */
    public CallSetup within(Duration other) {
        return new CallSetup(contract, bound, kept, endpoint, scope, profile, folder, parts, other);
    }

    /**
     * What its request is made of.
     *
     * @throws dev.mockbell.problem.Problem when a file of the case cannot be read or leads out of the project
     */
    public RequestSource source() {
        return source(Attachment::of);
    }

    /** As {@link #source}, for a look at the request: files are not copied. */
    RequestSource lookedAt() {
        return source(Attachment::lookingAt);
    }

    private RequestSource source(BiFunction<String, Path, Attachment> opened) {
        List<Attachment> all = new ArrayList<>(parts);
        Inside inside = new Inside(folder);
        for (PartText part : kept.parts()) {
            // one that is given for this call takes the place of the case's
            if (parts.stream().noneMatch(p -> p.id().equals(part.id()))) {
                all.add(opened.apply(part.id(), inside.resolve(folder, part.file()))
                        .typed(part.type()));
            }
        }
        return new RequestSource(
                bound,
                () -> MessageOutline.ofRequest(contract, bound.operation()),
                kept.request(),
                endpoint,
                profile.map(p -> p.message(folder)),
                all,
                profile.map(p -> p.via().address()).filter(a -> !a.isBlank()).map(Braces::parse));
    }
}
