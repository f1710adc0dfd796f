/**
 * Words that the name of a function may begin with. `to`, `with` and `without` are among them: `toLocation` converts, `withLocation` makes a
 * copy that differs.
 */
export const VERBS = new Set(
  `
    add advance answer append apply ask assign attach begin bind blank bring build cache call cancel capitalize
    change check choose classify clear climb close collapse collect combine compare compile complete compress
    compute configure confirm connect continue convert copy correct count create cut decide declare decode define
    delete demand derive describe destroy detach detect diagnose digest dispose divide draft draw drop edit emit
    encode end enqueue ensure enter escape evaluate examine exchange exclude execute exit expand expect explain
    export extend extract fail fetch fill filter find finish fit fix flush fold follow forbid forget format
    forward freeze gather generate get give go group grow guard guess handle hash hide highlight identify ignore
    import include indent infer insert inspect install intersect invalidate iterate join judge keep launch leave
    limit link list listen load locate lock look make map mark mask match measure merge mount move multiply name
    narrow normalize note notify observe omit open order overwrite pack pad paint parse pass pause perform pick
    place plan poll prefer prepare print process produce propose provide publish pull push put query quote raise
    randomize rank read reconnect record recover reduce refer refresh refuse register reject release reload
    remember remove rename render renew reorder replace reply report request require reread rescale reset resolve
    restart restore resume retry return reuse reveal reverse revert rewatch rewrite rotate round run save say scan
    search see select send separate serialize serve set settle shift shorten show shut sign simplify skip sleep
    sort spell spend splice split stamp start stop store strip suggest summarize surround survey suspend swap take
    tell test throw to toggle trace track transform translate trim try turn unescape unpack unquote unwrap update
    use validate verify visit wait walk warn watch with without wrap write
  `.split(/\s+/),
)
